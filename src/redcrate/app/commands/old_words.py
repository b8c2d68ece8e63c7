"""What commands were called before, by their names: who knows a command by those words still finds it."""

OLD_WORDS = {
    "arrange": "arrange, fit a row, let neighbours give",
    "diagram": "hand over, write",
    "gives-box": "the box grows",
    "gives-content": "content gives",
    "gives-margins": "margins give",
    "prove": "hold the page against the browser, ask the browser",
    "steps": "steps that were done",
    "take-off": "take it off the width that was given",
    "tint-nesting": "blocks on the sheet: tint by nesting",
    "tint-off": "blocks on the sheet: no tint",
    "tint-outlines": "blocks on the sheet: outlines only",
    "tint-parts": "blocks on the sheet: tint by parts",
}
