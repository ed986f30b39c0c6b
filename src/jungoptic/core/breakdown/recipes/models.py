"""Recipes with models, painted extensions and giant things.

Full-size metres from the hero's lens; common practice.
"""

from ..recipe import Ask, Of, Place, Plate, Recipe

SCALE = Ask("scale", "Scale 1:", "", 12, 2, 100)
FAR = Ask("distance_m", "The thing stands away", "m", 12, 2, 2000)
WIDE = Ask("width_m", "Width of the thing, full size", "m", 8, 0.2, 500)
TALL = Ask("height_m", "Height of the thing, full size", "m", 4, 0.2, 200)
BALLS = "ball, chart and tape in the model's light"
SKY = {"near_m": 3000.0, "width_m": 4400.0, "height_m": 1500.0, "base_m": -30.0, "picture_width_px": 3840}
FULL = {"near_m": 6.0, "depth_m": 400.0, "width_m": 12.0, "height_m": 4.0, "fills_frame": True}
MODEL = {
    "scale": Of("scale"),
    "near_m": Of("distance_m"),
    "width_m": Of("width_m"),
    "height_m": Of("height_m"),
    "depth_m": Of("width_m", 0.5),
}

RECIPES = (
    Recipe(
        "opening",
        1,
        "Miniature with a live background seen through an opening",
        "A window, a gate or a gap in the wall of a place that is not there, and real life behind it.",
        ("place",),
        ("model",),
        (
            Plate(
                "Wall with the opening 1:{s}",
                "model",
                "hand_matte",
                "Model on the table",
                "The opening is cut out of it.",
                (BALLS, "edges of the opening clean and matt", "camera height by the scale"),
                fields={**MODEL, "contact": "ground", "kept": ["contact_shadow"]},
            ),
            Plate(
                "Life behind",
                "live",
                "base",
                "Place behind",
                "The hero: it sets height, lens and light.",
                (
                    "camera height and tilt written down",
                    "key's direction written down",
                    "20 s without anybody",
                ),
                hero=True,
                fields={**FULL, "near_m": Of("distance_m", 1.3)},
            ),
        ),
        (
            ("Life behind", "It cannot be lit or moved: everything else follows it."),
            ("Wall with the opening", "Its height, lens and light come from what was really shot behind."),
        ),
        (
            (
                "The horizon behind stands at another height than the wall wants",
                "floors do not meet; items Camera height and Tilt",
            ),
            (
                "The wall is in focus to its far end and what is behind is not, or the other way round",
                "item Focus blur",
            ),
            (
                "The inside of the opening is lit by nothing that is behind it",
                "the opening looks pasted; item Direction of light",
            ),
        ),
        cautions=("workshop",),
        asks=(SCALE, FAR, WIDE, TALL),
        ways=("model", "painted", "key"),
    ),
    Recipe(
        "painted",
        2,
        "Miniature enlarged by painting",
        "A set or model that goes on where nothing was built: still, or with layers that shift against each"
        " other.",
        ("place",),
        ("model", "painter"),
        (
            Plate(
                "Near painted layer",
                "painted",
                "over",
                "",
                "The nearest painted layer: it moves most.",
                ("painted at twice the delivered width", "light from the plate's side"),
                fields={
                    "near_m": Of("distance_m", 0.6),
                    "width_m": Of("width_m", 0.5),
                    "height_m": Of("height_m", 0.6),
                    "picture_width_px": 3840,
                },
            ),
            Plate(
                "Model 1:{s}",
                "model",
                "hand_matte",
                "Model on the table",
                "Only what must have depth is built.",
                (BALLS, "edge of the model hidden behind a painted edge"),
                fields={**MODEL},
            ),
            Plate(
                "Plate",
                "live",
                "base",
                "Place",
                "The hero.",
                ("horizon and height written down",),
                hero=True,
                fields={**FULL},
            ),
            Plate(
                "Far painted layer",
                "painted",
                "behind",
                "",
                "What never shifts is cheapest as one picture.",
                ("haze painted in for its distance",),
                fields={
                    "near_m": Of("distance_m", 6.0),
                    "width_m": Of("width_m", 8.0),
                    "height_m": Of("height_m", 5.0),
                    "picture_width_px": 4800,
                },
            ),
        ),
        (
            ("Plate", "The painter paints to its light and its horizon."),
            ("Model", "It is the bridge between plate and painting."),
            ("Near painted layer", "Over a frame of the rough composite: only what is seen is painted."),
            ("Far painted layer", "Last: it takes the light and the air of all that stands before it."),
        ),
        (
            (
                "A layer moves as fast as one that pretends to be nearer",
                "depth collapses in the move: speed goes as one over distance",
            ),
            ("Painted too small for the frame", "item Enlargement"),
            (
                "A painted card is turned from the lens",
                "it looks flat from 20 to 30 degrees on; item Flat card turned",
            ),
        ),
        cautions=("workshop",),
        asks=(SCALE, FAR, WIDE, TALL),
        ways=("painted", "model", "stock"),
    ),
    Recipe(
        "event",
        3,
        "Miniature event at high speed",
        "Water breaks in, something collapses, bursts or falls to dust.",
        ("event",),
        ("model", "high frame rate"),
        (
            Plate(
                "Dust and debris",
                "black_element",
                "screen",
                "",
                "On black, from stock or filmed apart: it binds and it hides the join.",
                ("a few takes of different size",),
                fields={
                    "near_m": Of("distance_m", 0.95),
                    "width_m": Of("width_m", 0.6),
                    "height_m": Of("height_m", 1.2),
                    "picture_width_px": 1920,
                    "behind_weather": True,
                },
            ),
            Plate(
                "Event 1:{s}",
                "model",
                "hand_matte",
                "Model stage",
                "Gravity sets the rate: delivery times the root of the scale.",
                (
                    BALLS,
                    "rate and shutter angle read out loud",
                    "spare pieces for three takes",
                    "steady lamps: no flicker at this rate",
                    "before it goes: 20 s still",
                ),
                fields={
                    **MODEL,
                    "driver": "gravity",
                    "speed_m_s": 5.0,
                    "contact": "ground",
                    "kept": ["contact_shadow"],
                },
            ),
            Plate(
                "Clean stage",
                "clean_plate",
                "behind",
                "Model stage",
                "What stands behind what breaks.",
                ("at once, before the first take",),
                fields={
                    "near_m": Of("distance_m", 1.01),
                    "width_m": Of("width_m", 1.4),
                    "height_m": Of("height_m", 1.4),
                    "fills_frame": True,
                },
            ),
            Plate(
                "Plate",
                "live",
                "base",
                "Place",
                "The hero.",
                ("height, tilt and light written down",),
                hero=True,
                fields={**FULL},
            ),
        ),
        (
            ("Plate", "It decides light and height."),
            ("Clean stage", "After the first take nothing stands as it stood."),
            ("Event", "As often as there are pieces: the first take is never the last."),
            ("Dust and debris", "Chosen when the event is cut."),
        ),
        (
            ("Too slow a rate", "it looks small; item Time"),
            (
                "Drops and flames do not get smaller",
                "water looks wrong below about 1:4 to 1:6, fire below about 1:3 to 1:4, whatever the rate",
            ),
            ("The lamps' ripple", "item Mains flicker"),
            ("Twice the rate, half the light", "item Brightness"),
        ),
        cautions=("dust", "workshop", "mains_water"),
        asks=(
            Ask("scale", "Scale 1:", "", 6, 2, 30),
            Ask("distance_m", "It happens away", "m", 20, 3, 500),
            WIDE,
            TALL,
        ),
        ways=("model", "stock", "in_camera"),
    ),
    Recipe(
        "actor_in_model",
        4,
        "Actor into miniature, with the shadow he throws",
        "Somebody walks in a place that is only a model, and his shadow lies on it.",
        ("place",),
        ("model", "backing"),
        (
            Plate(
                "Actor",
                "live_element",
                "key",
                "Actor on the sheet",
                "The hero: feet and floor decide.",
                (
                    "feet in the frame and sharp",
                    "movement inside the even part of the sheet",
                    "contact shadow kept",
                ),
                hero=True,
                key_colour="green",
                fields={
                    "near_m": Of("actor_m"),
                    "width_m": 0.8,
                    "height_m": 1.8,
                    "contact": "ground",
                    "kept": ["contact_shadow"],
                    "moves_from_m": Of("walk_m", -0.5),
                    "moves_to_m": Of("walk_m", 0.5),
                },
            ),
            Plate(
                "Shadow in the model",
                "shadow_pass",
                "multiply",
                "Model on the table",
                "A cut-out of him in the model, or the frame again with its key flagged, used only where the"
                " shadow falls.",
                ("same frame, dark", "cut-out at his place and scale"),
                fields={"scale": Of("scale"), "near_m": Of("actor_m", 1.02), "width_m": 2.5, "height_m": 1.8},
            ),
            Plate(
                "Model 1:{s}",
                "model",
                "base",
                "Model on the table",
                "The place.",
                (BALLS, "camera height by the scale", "actor's place marked on the model's ground"),
                fields={**MODEL, "near_m": Of("actor_m", 1.05), "fills_frame": True},
            ),
        ),
        (
            ("Model", "A frame of it beside the actor shows where the ground is."),
            ("Actor", "To the model's key: its direction is a lamp away."),
            ("Shadow in the model", "In the set-up of the model, before anything is moved."),
        ),
        (
            ("His shadow falls nowhere", "he floats; item Contact"),
            ("Lens height divided by the wrong scale", "item Camera height"),
            ("Green on the rims", "item Spill of the backing"),
        ),
        cautions=("hot_lamps", "stands"),
        places=(Place("Actor on the sheet", "green"),),
        asks=(
            SCALE,
            Ask("actor_m", "Actor stands away", "m", 5, 1.5, 30),
            Ask("walk_m", "He walks", "m", 2, 0, 12),
            WIDE,
            TALL,
        ),
        ways=("key", "hand_cut", "model", "in_camera"),
    ),
    Recipe(
        "giant",
        12,
        "Giant thing behind buildings",
        "Something far too large stands or moves behind what everybody knows.",
        ("sky", "creature", "event"),
        ("locked camera",),
        (
            Plate(
                "Buildings in front",
                "live",
                "hand_matte",
                "Place, locked off",
                "The matte line: the thing passes behind it.",
                (
                    "nothing crosses the line",
                    "aerials and twigs counted: each is a matte",
                ),
                fields={"near_m": Of("line_m"), "depth_m": 4.0, "width_m": 20.0, "height_m": 6.0},
            ),
            Plate(
                "Plate",
                "live",
                "base",
                "Place, locked off",
                "The hero.",
                ("a minute of it", "light's direction"),
                hero=True,
                fields={**FULL},
            ),
            Plate(
                "Giant thing",
                "painted",
                "behind",
                "",
                "Model, painted or cut out: hazed as its distance wants.",
                ("lit from the plate's side", "speed by its size: a big thing is slow"),
                fields={
                    "near_m": Of("distance_m"),
                    "width_m": Of("width_m"),
                    "height_m": Of("height_m"),
                    "travel_across_m": Of("travel_m"),
                    "driver": "set_speed",
                    "picture_width_px": 3840,
                },
            ),
            Plate(
                "Sky", "stock", "behind", "", "Replaced only if the thing touches it.", (), fields=dict(SKY)
            ),
        ),
        (
            ("Plate", "On a day with the light that the thing will have."),
            ("Giant thing", "Lit and hazed to the plate."),
        ),
        (
            ("Something rises over the matte line", "it is cut off; item Above the matte line"),
            ("No air in front of it", "it looks near and small; item Haze"),
            ("It moves too fast for its size", "it looks like a toy"),
        ),
        asks=(
            Ask("line_m", "Buildings stand away", "m", 22, 3, 500),
            Ask("distance_m", "Giant stands away", "m", 60, 5, 5000),
            Ask("width_m", "Its width", "m", 18, 1, 1000),
            Ask("height_m", "Its height", "m", 11, 1, 1000),
            Ask("travel_m", "It travels", "m", 16, -1000, 1000),
        ),
        ways=("painted", "model", "stock"),
        lock_off=True,
    ),
    Recipe(
        "big_room",
        13,
        "Big room from a small set",
        "A hall, loft or deck far larger than what was built.",
        ("place",),
        ("locked camera",),
        (
            Plate(
                "Extension",
                "painted",
                "over",
                "",
                "Shown once, in the one wide view.",
                ("painted over a frame of the plate",),
                fields={
                    "near_m": Of("room_m", 2.4),
                    "width_m": Of("room_m", 4.0),
                    "height_m": Of("room_m"),
                    "base_m": Of("room_m", 0.8),
                    "picture_width_px": 3840,
                },
            ),
            Plate(
                "Clean set",
                "clean_plate",
                "behind",
                "Set",
                "For the join and for whatever moves across it.",
                ("20 s, nobody in it",),
                fields={
                    "near_m": Of("room_m", 1.01),
                    "width_m": Of("room_m", 2.0),
                    "height_m": Of("room_m"),
                    "fills_frame": True,
                },
            ),
            Plate(
                "Set",
                "live",
                "base",
                "Set",
                "The hero: built only as far as it is seen.",
                ("set pieces on wheels numbered", "floor marked for each view"),
                hero=True,
                fields={
                    "near_m": Of("room_m"),
                    "depth_m": Of("room_m"),
                    "width_m": Of("room_m", 2.0),
                    "height_m": Of("room_m"),
                    "fills_frame": True,
                },
            ),
        ),
        (
            ("Set, the wide view", "It says what the extension must carry on."),
            ("Clean set", "In the same set-up, at once."),
            (
                "Set, the near views",
                "The same pieces wheeled round: photograph and measure before each move.",
            ),
            ("Extension", "Last, and only for the wide view."),
        ),
        (
            ("The extension is seen in every view", "hours for nothing: show the big thing once"),
            ("A wheeled piece is recognised", "a stain or a nail is in two places at once"),
            ("The flopped half carries lettering", "item Mirrored"),
        ),
        cautions=("stands", "heights"),
        asks=(Ask("room_m", "Depth of what is built", "m", 4, 1, 40),),
        ways=("painted", "split", "model", "in_camera"),
        lock_off=True,
    ),
    Recipe(
        "hanging",
        24,
        "Foreground or hanging miniature, in camera",
        "A roof, a ceiling or a ship joined to a real place in one take, with nothing to do afterwards.",
        ("place",),
        ("model",),
        (
            Plate(
                "Hanging model 1:{s}",
                "model",
                "in_camera",
                "Place and model",
                "Near the lens, so it must be small and sharp: a small stop, a wide lens, daylight.",
                (
                    "head turns about the entrance pupil",
                    "join runs along an edge of the place",
                    "sun on both from one side",
                    "model braced against wind",
                ),
                fields={**MODEL, "near_m": Of("distance_m")},
            ),
            Plate(
                "Place",
                "live",
                "base",
                "Place and model",
                "The hero: both are one exposure.",
                ("focus between both, band checked", "people kept off the join"),
                hero=True,
                fields={**FULL},
            ),
        ),
        (
            (
                "Place",
                (
                    "With the model, at once: it is one take. Line it up by eye and by the numbers, then wait"
                    " for the light."
                ),
            ),
        ),
        (
            (
                "The pan turns about the screw and not about the pupil",
                "the join opens; item Entrance pupil off the axis",
            ),
            ("The model is out of the band that holds", "item Focus blur"),
            ("Its shadow falls the wrong way", "wait, or turn both"),
        ),
        cautions=("overhead_load", "stands", "heights"),
        asks=(SCALE, FAR, WIDE, TALL),
        ways=("in_camera", "model", "painted"),
        schools=(
            "In camera: nothing is composited and the light is one light. Composited: the model can be shot"
            " again. Both are sound; the first is decided on the day."
        ),
    ),
)
