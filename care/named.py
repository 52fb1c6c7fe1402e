"""Keys of the care book that rules of the code name. The loader refuses a book that lacks one."""

from enum import StrEnum


class NamedCaution(StrEnum):
    """Cautions that a rule adds by itself."""

    HAZARDOUS_DUST = "hazardous-dust"
    """The gate before all work that lets dust out."""
    DUST = "dust"
    DUST_ALLERGY = "dust-allergy"
    """What stands for `DUST` where somebody is allergic."""
    ZONES = "zones"
    """Keeps dirty parts from clean ones; said where a machine is taken apart."""
    BLADE = "blade"
    """Of a step that is done with a blade."""
    SMALL_PARTS = "small-parts"
    """Where children or animals live."""
    NO_HEAT = "no-heat"
    STRIP_DOWN = "strip-down"
    """Of what opens the body."""


DUST_FIRST = (NamedCaution.HAZARDOUS_DUST, NamedCaution.DUST)
"""What stands before every task that lets dust out."""


class NamedTool(StrEnum):
    """Tools that a rule adds by itself, or asks for."""

    MASK = "mask"
    GOGGLES = "goggles"
    GLOVES = "gloves"
    SCALE = "scale"


class NamedFeature(StrEnum):
    """Features of a machine that a rule asks for."""

    MOPS = "mops"
    """It mops, where not all of its kind do."""
    MOP_WASHING = "mop-washing"
    """Its dock washes and dries its mops."""
