"""The built front end: what a browser must fetch before a view stands."""

import gzip
import json

from leadsman.launch import front_end

MOST_GZIPPED_B = 350_000
SITES, WORKBENCH = "index.html", "src/features/workbench/index.ts"


def test_whichever_view_is_opened_first_its_script_is_light() -> None:
    front_end.build()
    dist = front_end.WEB / "dist"
    chunks = json.loads((dist / ".vite" / "manifest.json").read_text())

    def weight_b(fetched: list[str]) -> int:
        needed: set[str] = set()
        while fetched:
            name = fetched.pop()
            if name not in needed:
                needed.add(name)
                fetched += chunks[name].get("imports", [])
        return sum(len(gzip.compress((dist / chunks[name]["file"]).read_bytes())) for name in needed)

    views = chunks[WORKBENCH]["dynamicImports"]
    weights = {view: weight_b([SITES, WORKBENCH, view]) for view in views} | {"sites": weight_b([SITES])}
    assert "src/features/workbench/LinesView.tsx" in weights
    assert {view: weight for view, weight in weights.items() if weight > MOST_GZIPPED_B} == {}
