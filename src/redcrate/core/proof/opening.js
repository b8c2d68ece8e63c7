// Runs in an empty page of ours, in the browser: opens the page that is to be measured in a frame of a given size. What the
// frame may do is said by its sandbox (HTML Standard §7.1.5): scripts run only where that is wanted, and then in an
// origin of their own, from which nothing of ours can be reached.
const [address, width, height, sandbox, done] = arguments;

document.querySelectorAll("iframe").forEach(frame => frame.remove());
const frame = document.createElement("iframe");
frame.width = width;
frame.height = height;
frame.style = "display: block; border: 0";
frame.setAttribute("scrolling", "no");
frame.setAttribute("sandbox", sandbox);
frame.addEventListener("load", () => done(true));
frame.src = address;
document.body.append(frame);
