"""Hoses, pumps and levels of a system, as far as they are known."""

from __future__ import annotations

from dataclasses import dataclass

from ..basics.errors import check_range


@dataclass(frozen=True)
class Plumbing:
    """Hoses, pumps and levels of a system, as far as they are known (None: not measured).

    bore_mm, hose_m, head_cm: of the drain hose, head from the surface to its outlet · pump_l_h: real flow of the pump
    that fills, 0 by bucket · heater_w: of the new water's heater · fall_cm: how far the display falls when the return
    stops · outlet_cm: depth of the return's outlet below the running level · rim_cm: the sump's rim above its floor ·
    freeboard_cm: the display's rim above its running level · break_cm: the siphon break below the running level ·
    rise_cm: how far the sump rose when the return stopped, as measured · chamber_cm: inside length of the return
    chamber along the sump · pump_cm: the level in it at which the return pump draws air · return_l_h: what it delivers
    · sump_length_cm, sump_width_cm, sump_depth_cm: inside measures of the sump at its running level, where its set-up
    has its litres alone · second_drain: a second way down when the overflow is blocked · cup_l: what the skimmer's cup
    or its can holds.
    """

    bore_mm: float = 16.0
    hose_m: float = 3.0
    head_cm: float = 80.0
    pump_l_h: float = 0.0
    heater_w: float = 0.0
    fall_cm: float | None = None
    outlet_cm: float | None = None
    rim_cm: float | None = None
    freeboard_cm: float | None = None
    break_cm: float | None = None
    rise_cm: float | None = None
    chamber_cm: float | None = None
    pump_cm: float | None = None
    return_l_h: float | None = None
    sump_length_cm: float | None = None
    sump_width_cm: float | None = None
    sump_depth_cm: float | None = None
    second_drain: bool = False
    cup_l: float = 0.0


NO_PLUMBING = Plumbing()


def check_service(service: Plumbing) -> Plumbing:
    """Refuse impossible values at their field: bore 4 to 60 mm, hose 0.1 to 50 m, head 1 to 400 cm, pump to 20 000
    L/h."""
    check_range("bore", service.bore_mm, "mm", 4, 60, field="bore_mm")
    check_range("hose", service.hose_m, "m", 0.1, 50, field="hose_m")
    check_range("head", service.head_cm, "cm", 1, 400, field="head_cm")
    check_range("pump", service.pump_l_h, "L/h", 0, 20_000, field="pump_l_h")
    check_range("heater", service.heater_w, "W", 0, 2000, field="heater_w")
    for name, (said, unit, low, high) in _LEVELS.items():
        value = getattr(service, name)
        if value is not None:
            check_range(said, value, unit, low, high, field=name)
    check_range("cup", service.cup_l, "L", 0, 100, field="cup_l")
    return service


_LEVELS = {
    "fall_cm": ("fall", "cm", 0, 100),
    "outlet_cm": ("outlet", "cm", 0, 100),
    "rim_cm": ("rim", "cm", 1, 200),
    "freeboard_cm": ("rim of the display", "cm", 0, 50),
    "break_cm": ("siphon break", "cm", 0, 100),
    "rise_cm": ("rise of the sump", "cm", 0, 100),
    "chamber_cm": ("return chamber", "cm", 1, 1000),
    "pump_cm": ("level of the pump", "cm", 0, 200),
    "return_l_h": ("return pump", "L/h", 1, 50_000),
    "sump_length_cm": ("length of the sump", "cm", 1, 1000),
    "sump_width_cm": ("width of the sump", "cm", 1, 1000),
    "sump_depth_cm": ("running level of the sump", "cm", 1, 200),
}
