"""What decides the temperature of a system: its room, its lid, and what warms and cools it."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from enum import StrEnum

from ..basics.errors import InputError, check_range
from ..science.heat import ROOM_C, evaporating_w
from ..science.heat_balance import COVERED_W_M2_K, DRY_W_M2_K


class Lid(StrEnum):
    """What lies on the display."""

    OPEN = "open"
    HALF = "half"
    CLOSED = "closed"


SURFACES: Mapping[Lid, float] = {
    Lid.OPEN: DRY_W_M2_K,
    Lid.HALF: (DRY_W_M2_K + COVERED_W_M2_K) / 2,
    Lid.CLOSED: COVERED_W_M2_K,
}
LAMP_SHARE = 0.4
"""The share of a lamp's power that warms the water (judgement: of lamps that hang above it)."""
USUAL_ROOM_C, HOT_ROOM_C = 21.0, 32.0
"""A lived-in room, and one shut in a heatwave (judgement)."""
MAX_HEATERS = 6


@dataclass(frozen=True)
class Heating:
    """What decides the temperature of a system. Powers in W, temperatures in °C.

    room_c, cold_c, hot_c: the room as it usually is, at its coldest, and shut in a heatwave · heaters_w: of each one ·
    cutoff: a controller or a second thermostat that cuts a heater which sticks on · pumps_w: of all pumps in the
    water · lamps_w, lamp_h: of the lamps, and their hours a day · fan_l_day: what a fan lets evaporate on top · duty:
    share of the time that all heaters are on, usual room · cooled_from_c, cooled_to_c, cooled_h, cooled_room_c: a
    logged cooling without heaters · battery_wh, battery_w: a battery, and what runs from it · fish_g: of all fish ·
    evaporates_l_day: as the record shows, None where it does not.
    """

    room_c: float = USUAL_ROOM_C
    cold_c: float = ROOM_C
    hot_c: float = HOT_ROOM_C
    lid: Lid = Lid.OPEN
    heaters_w: tuple[float, ...] = ()
    cutoff: bool = False
    pumps_w: float = 0.0
    lamps_w: float = 0.0
    lamp_h: float = 0.0
    fan_l_day: float = 0.0
    chiller_w: float = 0.0
    battery_wh: float = 0.0
    battery_w: float = 0.0
    fish_g: float | None = None
    duty: float | None = None
    cooled_from_c: float | None = None
    cooled_to_c: float | None = None
    cooled_h: float | None = None
    cooled_room_c: float | None = None
    kwh_price: float = 0.0
    evaporates_l_day: float | None = None

    @property
    def gains_w(self) -> float:
        """Heat that pumps and lamps bring, over the day."""
        return self.pumps_w + self.lamps_w * LAMP_SHARE * self.lamp_h / 24

    @property
    def fan_w(self) -> float:
        """Heat that the fan takes away."""
        return evaporating_w(self.fan_l_day)

    @property
    def heat_w(self) -> float:
        """Of all heaters together."""
        return sum(self.heaters_w)

    @property
    def logged(self) -> bool:
        """Whether a whole cooling was logged."""
        return None not in (self.cooled_from_c, self.cooled_to_c, self.cooled_h, self.cooled_room_c)


NO_HEATING = Heating()


def check_heating(one: Heating) -> Heating:
    """Refuse impossible values at their field: rooms -5 to 45 °C and in their order, heaters 5 to 2000 W and up to six,
    lamps 0 to 24 h, and a logged cooling whole or not at all."""
    for name in ("room_c", "cold_c", "hot_c"):
        check_range("room", getattr(one, name), "°C", -5, 45, field=name)
    check_range("coldest room", one.cold_c, "°C", -5, one.room_c, field="cold_c")
    check_range("hottest room", one.hot_c, "°C", one.room_c, 45, field="hot_c")
    if len(one.heaters_w) > MAX_HEATERS:
        raise InputError(f"up to {MAX_HEATERS} heaters", field="heaters_w", accepted=f"0 to {MAX_HEATERS} heaters")
    for watts in one.heaters_w:
        check_range("heater", watts, "W", 5, 2000, field="heaters_w")
    for name, most in (("pumps_w", 2000), ("lamps_w", 3000), ("chiller_w", 5000), ("battery_w", 1000)):
        check_range(name.removesuffix("_w"), getattr(one, name), "W", 0, most, field=name)
    check_range("lamp hours", one.lamp_h, "h", 0, 24, field="lamp_h")
    check_range("fan", one.fan_l_day, "L a day", 0, 100, field="fan_l_day")
    check_range("battery", one.battery_wh, "Wh", 0, 20_000, field="battery_wh")
    check_range("price", one.kwh_price, "a kWh", 0, 1000, field="kwh_price")
    if one.fish_g is not None:
        check_range("fish", one.fish_g, "g", 0, 20_000, field="fish_g")
    if one.duty is not None:
        check_range("share of the time", one.duty, "(a fraction)", 0.01, 1, field="duty")
        if not one.heaters_w:
            raise InputError("enter the heaters first", field="heaters_w", accepted="the watts of each heater")
    return _check_cooling(one)


def _check_cooling(one: Heating) -> Heating:
    fields = ("cooled_from_c", "cooled_to_c", "cooled_h", "cooled_room_c")
    given = [name for name in fields if getattr(one, name) is not None]
    if given and len(given) < len(fields):
        missing = next(name for name in fields if name not in given)
        raise InputError("a logged cooling needs all four", field=missing, accepted="all four values, or none")
    if given:
        start, end, hours, room = (float(getattr(one, name)) for name in fields)
        check_range("room", room, "°C", -20, 44, field="cooled_room_c")
        check_range("temperature at first", start, "°C", room + 0.5, 45, field="cooled_from_c")
        check_range("temperature at the end", end, "°C", room + 0.2, start - 0.1, field="cooled_to_c")
        check_range("hours", hours, "h", 0.1, 200, field="cooled_h")
    return one
