"""A system's geometry as it is typed: measures, litres alone, or a salt addition."""

from dataclasses import asdict, replace
from functools import partial

from salttide.core.basics.errors import NumberError, at_field
from salttide.core.basics.phrases import phrase
from salttide.core.science.parameters import Parameter
from salttide.core.science.units import UnitChoice, to_canonical, unit_of
from salttide.core.system.volume import MEASURES, Geometry, SaltTest, Shape, Sump, of_litres

from .models import RequestModel


class SumpBody(RequestModel):
    """Inside measures of the sump in cm, at its running level."""

    length_cm: float
    width_cm: float
    depth_cm: float


class SaltTestBody(RequestModel):
    """A measured salt addition; salinities in the keeper's unit."""

    mass_g: float
    salinity_before: float
    salinity_after: float
    sea_salt_share: float = 1.0


class GeometryBody(RequestModel):
    """Inside measures in cm and volumes in L. What the shape does not need may be left out.

    displaced_l: null has it calculated from the rock and the sand bed. stated_l: of a tank known by its litres alone.
    """

    shape: Shape = Shape.BOX
    length_cm: float | None = None
    width_cm: float | None = None
    depth_cm: float | None = None
    stated_l: float | None = None
    bow_cm: float = 0
    displaced_l: float | None = 0
    sand_bed_cm: float = 0
    rock_kg: float = 0
    sump_l: float = 0
    sump: SumpBody | None = None
    salt_test: SaltTestBody | None = None

    def read(self, units: UnitChoice) -> Geometry:
        """The geometry as the core takes it."""
        if self.shape == Shape.LITRES:
            return replace(
                # What rock and sand take is in the share that counts as water.
                of_litres(self._measure("stated_l", phrase("system.to_litres")), self.sump_l, self.sand_bed_cm),
                sump=Sump(**self.sump.model_dump()) if self.sump else None, salt_test=self._salt_test(units),
            )  # fmt: skip
        length, depth = self._measure("length_cm"), self._measure("depth_cm")
        wide = self._measure("width_cm") if "width_cm" in MEASURES[self.shape] else self.width_cm or length
        return Geometry(
            length, wide, depth, self.displaced_l, self.sump_l, self.shape, self.bow_cm, self.sand_bed_cm, self.rock_kg,
            Sump(**self.sump.model_dump()) if self.sump else None, self._salt_test(units),
        )  # fmt: skip

    def _measure(self, field: str, accepted: str = "") -> float:
        value: float | None = getattr(self, field)
        if value is None:
            raise NumberError(phrase("common.enter_a_number"), field=field, accepted=accepted or phrase("system.to_cm"))
        return value

    def _salt_test(self, units: UnitChoice) -> SaltTest | None:
        test = self.salt_test
        if test is None:
            return None
        unit = unit_of(Parameter.SALINITY, units)
        before, after = (
            at_field(f"salt_test.{field}", partial(to_canonical, Parameter.SALINITY, getattr(test, field), unit))
            for field in ("salinity_before", "salinity_after")
        )
        return SaltTest(test.mass_g, before, after, test.sea_salt_share)


def geometry_body(units: UnitChoice, geometry: Geometry) -> GeometryBody:
    """The measures as typed; width only where the shape has one."""
    return GeometryBody(
        shape=geometry.shape,
        length_cm=geometry.length_cm if geometry.measured else None,
        width_cm=geometry.width_cm if "width_cm" in MEASURES[geometry.shape] else None,
        depth_cm=geometry.depth_cm if geometry.measured else None,
        stated_l=geometry.stated_l or None,
        bow_cm=geometry.bow_cm,
        displaced_l=geometry.displaced_l,
        sand_bed_cm=geometry.sand_bed_cm,
        rock_kg=geometry.rock_kg,
        sump_l=geometry.sump_l,
        sump=SumpBody(**asdict(geometry.sump)) if geometry.sump else None,
        salt_test=_salt_test(units, geometry.salt_test) if geometry.salt_test else None,
    )


def _salt_test(units: UnitChoice, test: SaltTest) -> SaltTestBody:
    return SaltTestBody(
        mass_g=test.mass_g,
        salinity_before=_shown(test.salinity_before, units),
        salinity_after=_shown(test.salinity_after, units),
        sea_salt_share=test.sea_salt_share,
    )


def _shown(salinity: float, units: UnitChoice) -> float:
    """A salinity for an input field: two digits more than is shown, without rounding noise."""
    unit = unit_of(Parameter.SALINITY, units)
    return round(unit.from_canonical(salinity), unit.decimals + 2)
