"""The job: pure computation, without interface, database, clock or chance.

Every public function takes and returns plain numbers in canonical units and can be had from here by its name:
`from salttide.core import salt_mass_g`. `docs/core.md` lists them. A module is loaded when a name of it is asked for.
"""

from __future__ import annotations

from importlib import import_module
from inspect import isroutine
from typing import Any


def _names(text: str) -> tuple[str, ...]:
    return tuple(text.split())


PUBLIC: dict[str, tuple[str, ...]] = {
    "basics.number_text": _names("DecimalSign parse_number show_number significant"),
    "basics.quantities": _names("Gallon Habits Kind find_unit mass_of_scoops parse_quantity scoop_words"),
    "science.units": _names("parse_measurement show"),
    "science.conversion": _names("convert"),
    "science.parameters": _names("Parameter Span"),
    "science.seawater": _names(
        "GravityReference absolute_salinity conductivity_ms_cm_from_salinity density_kg_l practical_salinity "
        "pure_water_density_kg_l salinity_from_density salinity_from_specific_gravity specific_gravity"
    ),
    "science.instruments": _names(
        "RefractometerScale correct_reading hydrometer_reading instrument_line salinity_from_hydrometer "
        "salinity_from_refractometer"
    ),
    "science.carbonate": _names(
        "PhNbs PhTotal aragonite_saturation carbonate_from_dic carbonate_from_pco2 carbonate_from_ph_nbs "
        "carbonate_from_ph_total carbonate_working pco2_uatm_from_ph_nbs ph_nbs_from_pco2 ph_nbs_from_total "
        "ph_total_from_nbs"
    ),
    "science.ph_effect": _names("largest_dose_by_ph ph_effect_of_dose"),
    "science.ammonia": _names("ammonia_danger pk_ammonium unionised_ammonia_mg_l unionised_share"),
    "science.additives": _names(
        "amount_per_gram brought_per_mole carbon_per_mole dose_mass_g dry_share effects molar_mass_g_mol "
        "rise_from_mass salinity_rise"
    ),
    "science.solutions": _names(
        "calcium_per_meq_mg check_stock label_dose_ml largest_strength_g_l magnesium_blend solution_dose_ml "
        "solution_rise stock_mass_g sulfate_to_chloride two_part_doses two_part_salinity_drift"
    ),
    "science.limewater": _names("limewater_day limewater_most_meq_l limewater_solubility_g_l limewater_strength_meq_l"),
    "science.mix": _names(
        "StrengthBasis SaltMix correct_batch fresh_water_l mix_batch salinity_of_mix salt_for_fresh_water_g "
        "salt_mass_by_rule_g salt_mass_g salt_to_strengthen_g sea_salt_share water_to_weaken_l"
    ),
    "science.salts": _names(
        "batch_doses blend_of_salts blend_share label_range label_span natural_seawater rank_salts "
        "strength_from_batches"
    ),
    "science.dilution": _names(
        "Routine after_change after_changes after_continuous_change changes_to_reach compare_routines "
        "even_changes continuous_volume_to_reach fraction_to_reach level_with_production salinity_exchange_l "
        "salinity_steps_l settled_level"
    ),
    "science.sizing": _names("DayLimit size_changes"),
    "science.draining": _names(
        "Chamber bucket_count drain_back_l drain_minutes exposed_gear fall_cm fill_minutes hose_flow_l_min "
        "level_drop_cm siphon_tube_cm sump_holds sump_room_l zone_volumes_l"
    ),
    "planning.batch": _names("keeps_days"),
    "planning.batch_plan": _names("Portion headroom_l plan_batch share_batch"),
    "ledger.stock": _names("salt_left"),
    "science.dosing": _names("Between correct_in_order correction_days uptake_between uptake_per_day"),
    "estimate.supplementation": _names(
        "Means Need Reactor changes_carry day_amount left_behind magnesium_plausible need_from_uptake plan_routine "
        "reactor_brings reactor_flow_ml_min"
    ),
    "estimate.dose_review": _names("ease_back is_off"),
    "planning.correction": _names("Aim WaterNow agreement gentler_choice largest_safe_rise plan_correction"),
    "estimate.gas_exchange": _names("carbon_per_meq even_doses"),
    "estimate.dose_times": _names("Slot nearest_minutes slots_of"),
    "planning.container": _names("Container ContainerEvent ContainerKind flow_ml_min"),
    "planning.delivery": _names("Fault delivery_of"),
    "science.recipe": _names("cautions_of matched_calcium_g_l never_meet stock_recipe strength_from_label_g_l"),
    "planning.ramp": _names("CarbonSource Trend Turn carbon_gate carbon_ml next_carbon next_media_g"),
    "science.topoff": _names(
        "alkalinity_after_lime_flood evaporation_l_from_salinity independent_safeguards "
        "largest_safe_lime_reservoir_l largest_safe_reservoir_l lime_flood reservoir_days salinity_after_evaporation "
        "salinity_after_flood salinity_drift_per_day"
    ),
    "science.heat": _names("cooled_by_ice_k cooling_h evaporating_l_day heat_loss_w_k warming_w"),
    "science.geometry": _names(
        "bow_front_volume_l box_volume_l cylinder_volume_l hexagon_volume_l net_volume_by_salt net_volume_l "
        "quarter_round_volume_l rock_displacement_l sand_displacement_l"
    ),
    "ledger.entries": _names("Change Dose Evaporation Feed Harvest Ledger Reading TopOff Unexplained"),
    "ledger.balance": _names("effect present_water"),
    "ledger.transfers": _names("fill_linked"),
    "estimate.rate": _names("rate_of"),
    "ledger.plan": _names("DailyDose Plan daily_as_recorded"),
    "estimate.forecast": _names("crossing expect"),
    "judgement.scenario": _names("situation_described"),
    "judgement.findings": _names("judge_situation"),
    "judgement.cycling": _names("alkalinity_used_meq_l breaking_in"),
    "judgement.retest": _names("retests"),
    "ledger.bench_row": _names("Instrument read_entry"),
    "jot.sums": _names("JotContext answer"),
    "basics.errors": _names(
        "AmbiguousError DomainError InputError NumberError PlanError RuleError SaltTideError ScaleError UnitError"
    ),
}
"""Module, and the names that it offers to callers outside the core."""

_HOME = {name: module for module, names in PUBLIC.items() for name in names}


def __getattr__(name: str) -> Any:
    if name not in _HOME:
        raise AttributeError(f"module {__name__!r} has no attribute {name!r}")
    found = getattr(import_module(f".{_HOME[name]}", __name__), name)
    if isroutine(found):
        found = import_module(".basics.contract", __name__).held(found)
    globals()[name] = found
    return found


def __dir__() -> list[str]:
    return sorted({*globals(), *_HOME})
