"""The usual cautions of practical work, by key. They never say how to make a hazard, only what it is and whom
to ask.

Kind: common practice. Local codes and licensed practice come first.
"""

from __future__ import annotations

from dataclasses import dataclass

DEFERENCE = "Local codes and licensed practice come first. These are reminders, not instructions."


@dataclass(frozen=True, slots=True)
class Caution:
    """One hazard: what can go wrong, who must be asked, and a safer way that looks the same."""

    key: str
    title: str
    text: str
    ask: str
    safer: str


CAUTIONS: dict[str, Caution] = {
    c.key: c
    for c in (
        Caution(
            "water_edge",
            "Quay and open water",
            "Wet stone, tide and cold water. Nobody works alone at the edge; life jackets on, a throw line at"
            " hand, the tide times on the call sheet.",
            "Harbour or land owner; the insurer.",
            "Film the plate from further back with a longer lens, or use a stock sea.",
        ),
        Caution(
            "hot_lamps",
            "Hot lamps",
            "Lamps close to a model dry and scorch it, and cloth and paper near them can catch. Keep the"
            " maker's clearances, never leave them lit alone, let them cool before moving.",
            "A competent electrician for the supply.",
            "Cool panels nearer, a higher ISO, or fewer frames a second where time allows.",
        ),
        Caution(
            "mains_water",
            "Mains near water",
            "Mains and water do not share a floor. Supplies off the ground, behind a residual-current device,"
            " away from splash and hoses.",
            "A competent electrician.",
            "Battery lamps for everything within reach of the water.",
        ),
        Caution(
            "heights",
            "Ladders and beams",
            "Work above head height: footed ladders, tools on lanyards, nobody below.",
            "The hall's owner; a licensed rigger for anything hung over people.",
            "Lower the model instead of raising the lamp.",
        ),
        Caution(
            "overhead_load",
            "Raised models and lamps",
            "Trestles and stands tip. Sandbag the stands, brace the table, keep cables out of the walk.",
            "The hall's owner for fixings.",
            "A lower table and a lower lens.",
        ),
        Caution(
            "dust",
            "Dust and flying grit",
            "Fine dust and grit in the air and in the eyes: masks and goggles for all, covers on lenses, the"
            " floor swept before anybody runs.",
            "The hall's owner; whoever answers for health at work.",
            "A dust element on black from stock, laid in later.",
        ),
        Caution(
            "flame",
            "Flame, sparks, smoke and gas",
            "Nothing burns, sparks or smokes on set without the people who are licensed for it. Exits free,"
            " extinguishers at hand, somebody watching, nobody alone.",
            "Fire service, land owner, insurer; a licensed pyrotechnician for anything that burns or bursts.",
            "A flame, spark or smoke element from stock, laid in over a light that is dimmed in its time.",
        ),
        Caution(
            "aerosols",
            "Sprays and haze",
            "Sprays, fogs and hazes are breathed and some can catch. Only what is sold for the purpose, as"
            " its maker says; air the room, ask who has asthma, tell the fire alarm's keeper.",
            "The hall's owner; whoever answers for health at work.",
            "A flat haze layer in the composite: its opacity follows from the visibility.",
        ),
        Caution(
            "people_on_wires",
            "Wires that carry people",
            "A person is hung only by licensed riggers with stunt people, never by this crew. Nothing here"
            " says how.",
            "A licensed rigging and stunt professional; the insurer; the hall's owner.",
            "On the ground before a sheet, on a low, firm support, with a moving camera and moving air.",
        ),
        Caution(
            "roads",
            "Roads and moving vehicles",
            "A road is closed or it is not used. Drivers watch the road and not the shot, nobody stands in"
            " the way at any speed, high-visibility clothes for everybody out of frame.",
            "Local authority, police, land owner, insurer; a stunt professional for anything near people.",
            "Vehicle and person filmed apart in one locked frame, joined at a split.",
        ),
        Caution(
            "boats",
            "Boats, docks and cold water",
            "Life jackets for all, a second boat, somebody on shore who counts heads; cold water takes the"
            " strength within minutes.",
            "Harbour master, boat's owner, insurer.",
            "The deck filmed on land against a stock sea.",
        ),
        Caution(
            "children_animals",
            "Children and animals",
            "Short hours, breaks, somebody who knows them at their side; no loud or sudden things near them.",
            "Parents and the local authority for children; the keeper, and a vet where there is doubt, for"
            " animals.",
            "A stand-in, a puppet, or an element filmed where the animal is at home.",
        ),
        Caution(
            "workshop",
            "Blades, solvents, dust and casting in the workshop",
            "Sharp blades cut away from hands, solvents and resins need air and gloves, sanding needs a mask,"
            " lasers and machines only for those who know them, never alone at night.",
            "The workshop's keeper; the maker's data sheets.",
            "Card, foam and water-based paint; parts cut to order.",
        ),
        Caution(
            "stands",
            "Swivelling stands and improvised platforms",
            "What turns, rolls or is stacked will tip. Wheels locked, platforms low and railed, weight over"
            " the legs, a second person at whatever is moved with somebody on it.",
            "The hall's owner; a competent rigger for anything above head height.",
            "Move the camera lower, or the thing instead of the person.",
        ),
        Caution(
            "strobe",
            "Flashing light",
            "Repeated flashes can bring on a fit. Tell everybody beforehand, keep them few and far apart, let"
            " people stand out.",
            "Everybody in the room; the producer's insurer.",
            "One slow flash, or a light pass laid in in its time.",
        ),
    )
}
