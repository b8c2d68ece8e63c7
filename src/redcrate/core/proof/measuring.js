// Reads the geometry of a page with the DOM's own calls (CSSOM View 1, CSS Font Loading 3). `view` is the page's window: it is
// declared before this text, and is the frame's where no scripts run, else the one that this runs in.
const [scripts, known, done] = arguments;

function families(list) {
    return list.match(/"[^"]*"|'[^']*'|[^,]+/g).map(one => one.trim());
}

// Whether a text comes out the same whatever stands behind a family: then there is that family.
function probe(inside) {
    const pen = inside.createElement("canvas").getContext("2d");
    const widths = new Map();
    const measure = list => {
        if (!widths.has(list)) {
            pen.font = "97px " + list;
            widths.set(list, pen.measureText("mmmmmwwwllliii 0123 Quartz").width);
        }
        return widths.get(list);
    };
    const is_there = name => measure(name + ", serif") === measure(name + ", monospace");
    const generic = /^(serif|sans-serif|monospace|cursive|fantasy|system-ui|math|ui-.*)$/;
    return list => {
        for (const name of families(list)) {
            if (!generic.test(name)) {
                if (is_there(name)) return name.replace(/^["']|["']$/g, "");
                continue;
            }
            const same = known.find(k => is_there(`"${k}"`) && measure(`"${k}"`) === measure(name));
            return same ? same : "its own " + name;
        }
        return "";
    };
}

function has_text(element) {
    return [...element.childNodes].some(n => n.nodeType === 3 && n.data.trim() !== "");
}

// What stands in for scripts is not shown where they run, nor in Red Crate, although none run here either. The tree of the
// page stays as it is.
function hide_stand_ins(inside, view) {
    for (const element of inside.querySelectorAll("noscript style, noscript link")) {
        if (element.sheet) element.sheet.disabled = true;
    }
    const sheet = new view.CSSStyleSheet();
    sheet.replaceSync("noscript { display: none !important }");
    inside.adoptedStyleSheets = [sheet];
}

function doctype(inside) {
    return inside.doctype ? new XMLSerializer().serializeToString(inside.doctype) + "\n" : "";
}

function read() {
    const inside = view.document;
    if (!inside || !inside.body) return { problem: "it is no page, or went to another place" };
    const used = probe(inside), lists = new Map();
    view.scrollTo(0, 0);
    // where scripts run, what stands in for them is text
    const listed = [...inside.body.querySelectorAll("*")].filter(e => !e.parentElement.closest("noscript"));
    const elements = [inside.documentElement, inside.body, ...listed].map(element => {
        const style = view.getComputedStyle(element);
        const box = element.getBoundingClientRect();
        let family = "";
        if (has_text(element)) {
            family = style.fontFamily;
            if (!lists.has(family)) lists.set(family, used(family));
        }
        const there = element.getClientRects().length;
        return [element.localName, there, box.x, box.y, box.width, box.height, style.display, lists.get(family) || ""];
    });
    return {
        elements,
        width: inside.documentElement.clientWidth,
        height: inside.documentElement.scrollHeight,
        failed: [...inside.fonts].filter(f => f.status === "error").map(f => f.family),
        html: scripts ? doctype(inside) + inside.documentElement.outerHTML : "",
    };
}

async function begin() {
    if (view.document && !scripts) hide_stand_ins(view.document, view);
    if (view.document) await view.document.fonts.ready;
    if (scripts) await new Promise(go => setTimeout(go, 300));
    done(read());
}

begin();
