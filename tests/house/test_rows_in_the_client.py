"""The client's one hook for every list is typed by the service's description: a made-up kind of row
needs no line of it."""

from __future__ import annotations

import json
import shutil
import subprocess
import tempfile
from pathlib import Path
from typing import Any

import pytest
from pydantic.json_schema import models_json_schema

from .test_rows import JobWithGadgets

pytestmark = pytest.mark.long

WEB = Path(__file__).parents[2] / "web"
GOOD = """
import { useRows } from "./service/rows";
export function Gadgets() {
  const gadgets = useRows("gadgets");
  const first = gadgets.rows[0];
  const size: number | undefined = first?.size_m;
  void gadgets.add({ size_m: "3,5 ft", kind: "square", tags: ["a"] });
  void gadgets.set("xg1", { on: true, target: null });
  void gadgets.remove("xg1");
  return size;
}
"""
WRONG = {
    "a field that is none": 'void useRows("gadgets").set("xg1", { colour: "red" });',
    "a list that is none": 'void useRows("gizmos");',
    "what is no figure": 'void useRows("gadgets").add({ size_m: true });',
}


def _described() -> dict[str, Any]:
    document: dict[str, Any] = json.loads((WEB / "openapi.json").read_text())
    ref = "#/components/schemas/{model}"
    _, made = models_json_schema([(JobWithGadgets, "serialization")], ref_template=ref)
    schemas = document["components"]["schemas"]
    schemas |= {k: v for k, v in made["$defs"].items() if k not in schemas}
    schemas["Job"] = {**made["$defs"]["JobWithGadgets"], "title": "Job"}
    return document


def test_the_hook_takes_a_new_kind_and_refuses_what_it_is_not() -> None:
    with tempfile.TemporaryDirectory(dir=WEB, prefix="try-") as folder:
        at = Path(folder)
        for room in ("service", "units", "wire"):
            shutil.copytree(WEB / "src" / room, at / room)
        (at / "openapi.json").write_text(json.dumps(_described()))
        tool = WEB / "node_modules/.bin/openapi-typescript"
        subprocess.run(
            [str(tool), str(at / "openapi.json"), "-o", str(at / "wire/schema.d.ts")],
            check=True,
            capture_output=True,
        )
        (at / "good.ts").write_text(GOOD)
        for n, line in enumerate(WRONG.values()):
            (at / f"wrong{n}.ts").write_text(
                f'import {{ useRows }} from "./service/rows";\n{line}\n'
            )
        (at / "tsconfig.json").write_text('{"extends": "../tsconfig.json", "include": ["."]}')
        told = subprocess.run(
            [
                str(WEB / "node_modules/.bin/tsc"),
                "-p",
                str(at),
                "--noEmit",
                "--incremental",
                "false",
            ],
            capture_output=True,
            text=True,
            check=False,
        ).stdout
    assert "good.ts" not in told, told
    for n, what in enumerate(WRONG):
        assert f"wrong{n}.ts" in told, what
    assert "service/" not in told, told
