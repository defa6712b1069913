"""Documents of earlier format versions, brought to the present one."""

from __future__ import annotations

from typing import Any

#: names that version 1 gave to members of a hall, and those they bear since version 2
_RENAMED = {
    "column-left": "column-A",
    "column-right": "column-B",
    "rafter-left": "rafter-AB-left",
    "rafter-right": "rafter-AB-right",
}


def upgrade(data: Any) -> Any:
    """The same document in the present format. Anything that is not of an earlier version is given back unchanged.

    Version 2 has bays across and a list of spacings in the hall, and releases named like the freedoms of a support; version 3
    states springs at the ends of members in the document's own unit, not always in kN; version 4 states ψ0 in one place, the rows
    of `psi`; version 5 splits groups of a sizing by other things than end frames too. Raises ValueError where an earlier one states it twice.
    """
    if not isinstance(data, dict) or data.get("version", 3) not in (1, 2, 3, 4):
        return data
    version = data.get("version", 3)
    if version == 1:
        data = _from_first(data)
    if version < 3 and data.get("units") == "N, m":
        for name in ("members", "edits"):
            if isinstance(data.get(name), list):
                data = {**data, name: [_in_newtons(m) for m in data[name]]}
    if version < 4 and isinstance(data.get("rules"), dict):
        data = {**data, "rules": _one_psi(dict(data["rules"]))}
    if isinstance(data.get("sizing"), dict) and isinstance(data["sizing"].get("groups"), dict):
        groups = {name: _apart(plan) for name, plan in data["sizing"]["groups"].items()}
        data = {**data, "sizing": {**data["sizing"], "groups": groups}}
    return {**data, "version": 5}


def _apart(plan: Any) -> Any:
    if not isinstance(plan, dict) or "ends_apart" not in plan:
        return plan
    rest = {key: value for key, value in plan.items() if key != "ends_apart"}
    return {**rest, "apart": ["end frames"]} if plan["ends_apart"] else rest


#: rows of table A1.1 whose ψ0 had a field of its own up to version 3: its field, what it said by default, ψ1 and ψ2
_FIRST = {
    "wind": ("psi0_wind", 0.6, 0.2, 0.0),
    "snow": ("psi0_snow", None, 0.2, 0.0),
    "snow above 1000 m": ("psi0_snow", None, 0.5, 0.2),
}


def _one_psi(rules: dict[str, Any]) -> dict[str, Any]:
    psi = dict(rules.get("psi") or {})
    for row, (key, usual, second, third) in _FIRST.items():
        value = rules.get(key)
        if value is None or value == usual:
            continue
        if row in psi and psi[row][0] != value:
            raise ValueError(
                f"ψ0 of {row} is stated twice, as {psi[row][0]} in psi and as {value} in {key}: state it once"
            )
        psi[row] = [value, *(psi[row][1:] if row in psi else (second, third))]
    for key in ("psi0_wind", "psi0_snow"):
        rules.pop(key, None)
    return {**rules, "psi": psi}


def _in_newtons(member: Any) -> Any:
    if not isinstance(member, dict) or not isinstance(member.get("releases"), dict):
        return member
    releases = {
        key: {freedom: k * 1000 if isinstance(k, int | float) else k for freedom, k in value.items()}
        if key.endswith("_springs") and isinstance(value, dict)
        else value
        for key, value in member["releases"].items()
    }
    return {**member, "releases": releases}


def _from_first(data: dict[str, Any]) -> dict[str, Any]:
    data = dict(data)
    if isinstance(data.get("hall"), dict):
        data["hall"] = _hall(dict(data["hall"]))
    if isinstance(data.get("members"), list):
        data["members"] = [_member(m) for m in data["members"]]
    if isinstance(data.get("member_loads"), list):
        data["member_loads"] = [_load(item) for item in data["member_loads"]]
    return data


def _hall(hall: dict[str, Any]) -> dict[str, Any]:
    bay = {key: hall.pop(key) for key in ("span", "pitch") if key in hall}
    hall["bays"] = [bay]
    frames, spacing = hall.pop("frames", 8), hall.pop("spacing", 6.0)
    hall["spacings"] = [spacing] * (frames - 1) if isinstance(frames, int) else frames
    purlins = {}
    for old, new in (("purlin_spacing", "spacing"), ("stay_every", "stay_every")):
        if old in hall:
            purlins[new] = hall.pop(old)
    hall["purlins"] = purlins
    return hall


def _member(member: Any) -> Any:
    if not isinstance(member, dict) or not isinstance(member.get("releases"), dict):
        return member
    turned = {
        end: [f"r{axis}" if axis in ("x", "y", "z") else axis for axis in axes]
        for end, axes in member["releases"].items()
    }
    return {**member, "releases": turned}


def _load(load: Any) -> Any:
    if not isinstance(load, dict) or not isinstance(load.get("member"), str):
        return load
    name = load["member"]
    for old, new in _RENAMED.items():
        if name.endswith(f"/{old}"):
            name = name.removesuffix(old) + new
    return {**load, "member": name}
