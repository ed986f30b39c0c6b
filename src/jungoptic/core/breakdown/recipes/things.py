"""Recipes about things that move, screens, elements and thrown light. Full-size metres from the hero's lens; common practice."""

from ..recipe import Ask, Of, Place, Plate, Recipe

AWAY = Ask("distance_m", "It stands away", "m", 4, 0.3, 60)
LOCKED = "tripod, focus, exposure, white balance, ISO and light locked"
ROOM = {"near_m": 2.5, "depth_m": 3.0, "width_m": 6.0, "height_m": 3.0, "fills_frame": True}
CLEAN = {"near_m": 2.51, "width_m": 6.0, "height_m": 3.0, "fills_frame": True}
THING = {"near_m": Of("distance_m"), "width_m": Of("size_m"), "height_m": Of("size_m")}
SIZE = Ask("size_m", "Size of the thing", "m", 0.4, 0.02, 20)

RECIPES = (
    Recipe(
        "moves_itself", 7, "Thing that lifts or moves itself",
        "A cup rises, a rope pulls itself, a door opens for nobody.",
        ("alive",), ("locked camera",),
        (
            Plate("Thing on a rig", "rig", "difference", "Locked off", "Carried by whatever hides behind it: rod, line or hand, on the side away from the lens.", (LOCKED, "rig hides behind the thing", "does not swing: counted to three before action", "reflection and shadow of it in the frame"), fields={**THING, "contact": "wet_ground", "kept": ["contact_shadow", "reflection"], "driver": "set_speed", "speed_m_s": 0.4}),
            Plate("Clean plate", "clean_plate", "behind", "Locked off", "What is behind the rig.", (LOCKED, "20 to 30 s, at once", "without the thing, and once with it at rest"), fields=dict(CLEAN)),
            Plate("Place", "live", "base", "Locked off", "The hero.", (LOCKED,), hero=True, fields=dict(ROOM)),
        ),
        (("Clean plate", "Now, while everything stands."), ("Thing on a rig", "Until it moves like itself and not like a hand.")),
        (("The carrier's shadow or reflection stays", "the trick is seen on the floor"), ("It swings", "a line shows by its pendulum; a rod does not"), ("Clean plate after lunch", "item Clean plate's settings")),
        cautions=("overhead_load",), asks=(AWAY, SIZE), ways=("difference", "hand_cut", "key", "in_camera"), lock_off=True,
        schools="Rod from behind: rigid, one matte. Line from above: nothing to paint behind the thing, but it swings.",
    ),
    Recipe(
        "flies_off", 8, "Piece flies on or off",
        "A hat, a sign or a shutter leaps to its place, or away.",
        ("alive", "danger"), ("locked camera",),
        (
            Plate("Piece flies", "live", "hand_matte", "Locked off", "Dropped or blown away by air; played backwards it flies on.", (LOCKED, "several times, to one spot", "frame of leaving noted", "air on everything near it"), fields={**THING, "driver": "gravity", "speed_m_s": 4.0}),
            Plate("Patch plate", "clean_plate", "behind", "Locked off", "The place without the piece.", (LOCKED, "20 s",), fields=dict(CLEAN)),
            Plate("Place", "live", "base", "Locked off", "The hero; its first frame frozen where the piece sits.", (LOCKED, "average of many frames, not one frame"), hero=True, fields=dict(ROOM)),
        ),
        (("Place", "With the piece on."), ("Piece flies", "The drop, timed."), ("Patch plate", "Without the piece, at once.")),
        (("Freeze has no grain", "a dead patch; item Grain: average, then put grain back"), ("Played backwards", "dust, hair and breath go backwards too"), ("No shadow under it", "item Contact")),
        cautions=("dust",), asks=(AWAY, SIZE), ways=("split", "difference", "stock"), lock_off=True,
    ),
    Recipe(
        "turning", 9, "Prop filmed turning against a backing, placed in a throw",
        "A knife, a coin or a bottle turns through the air, slow enough to be seen.",
        ("danger", "time"), ("backing",),
        (
            Plate("Prop turning", "live_element", "key", "Prop before the sheet", "At least one full turn, lit as the room is.", ("one whole turn seen", "holder on the side away from the lens", "blunt copy, never the sharp one"), key_colour="green", fields={**THING, "driver": "set_speed", "speed_m_s": 1.0, "travel_across_m": 1.5}),
            Plate("Throw and catch", "live", "base", "Throw, locked off", "The hero: two live halves, ramped down between.", (LOCKED, "hand empties out of frame", "catch begins in the pose", "nothing sharp is thrown"), hero=True, fields=dict(ROOM)),
            Plate("Clean plate", "clean_plate", "behind", "Throw, locked off", "What the prop passes over.", (LOCKED, "20 s"), fields=dict(CLEAN)),
        ),
        (("Throw and catch", "Its light and timing decide."), ("Prop turning", "To the room's key, at the rate that the ramp wants."), ("Clean plate", "At once.")),
        (("The slowest part repeats frames", "film it at the ramp's rate"), ("Turns the wrong way", "flop it, unless it carries lettering"), ("No blur", "item Motion blur")),
        cautions=("workshop",), places=(Place("Prop before the sheet", "green"),), asks=(AWAY, SIZE), ways=("key", "hand_cut", "stock"), lock_off=True,
    ),
    Recipe(
        "puppet", 16, "Puppet or stop-motion character into a live plate",
        "A creature or a machine that lives, in a real place.",
        ("creature", "alive"), ("animator",),
        (
            Plate("Glass, water or distortion over it", "reflection_pass", "screen", "Place", "Put back over it: it binds.", ("same set-up",), fields={"near_m": Of("distance_m", 0.95), "width_m": 2.0, "height_m": 1.0}),
            Plate("Puppet 1:{s}", "frame_by_frame", "key", "Puppet on the table", "Frame by frame, on ones or twos.", ("ball and chart in its light", "reference performance on the table's screen", "stand clear the same way each frame", "highlights last"), key_colour="blue", fields={"scale": Of("scale"), "near_m": Of("distance_m"), "width_m": Of("size_m"), "height_m": Of("size_m"), "depth_m": Of("size_m", 0.5), "contact": "wet_ground", "kept": ["contact_shadow", "reflection"], "travel_across_m": Of("walk_m")}),
            Plate("Stand-in", "live", "in_camera", "Place", "Somebody walks the way: eyes, timing and shadow; not in the picture at the end.", ("walks the path at the creature's height", "ball carried along the path"), fields={"near_m": Of("distance_m", 1.02), "width_m": 0.6, "height_m": 1.7}),
            Plate("Place", "live", "base", "Place", "The hero.", ("20 s empty", "height, lens, sun and time written down"), hero=True, fields={"near_m": 3.0, "depth_m": 60.0, "width_m": 9.0, "height_m": 2.0, "fills_frame": True}),
        ),
        (("Place", "It cannot be relit."), ("Stand-in", "At once, in the same light."), ("Puppet", "To the plate's key, frame by frame."), ("Glass, water or distortion", "In the plate's set-up.")),
        (("Too smooth, no blur", "item Motion blur: blur put in afterwards where it is looked at"), ("Light of the room flickers off the animator", "dark clothes, same place each frame"), ("Feet touch nothing", "item Contact")),
        cautions=("workshop", "hot_lamps"), places=(Place("Puppet on the table", "blue"),), asks=(Ask("scale", "Scale 1:", "", 4, 1, 30), Ask("distance_m", "It walks away", "m", 5, 0.5, 60), Ask("size_m", "Its size, full size", "m", 1.2, 0.05, 30), Ask("walk_m", "It walks", "m", 0.9, -30, 30)), ways=("key", "hand_cut", "in_camera"),
    ),
    Recipe(
        "on_black", 18, "Fire, spark or smoke on black, and the light thrown on the set",
        "A flame, a flash, sparks or smoke, and the room that answers.",
        ("light", "event"), (),
        (
            Plate("Element on black", "black_element", "add", "", "From stock: nothing burns on our set.", ("large enough for the frame", "black is black: no glow at the edge"), fields={"near_m": Of("distance_m", 0.98), "width_m": Of("size_m"), "height_m": Of("size_m"), "picture_width_px": 1920, "seen_s": 0.6}),
            Plate("Light thrown", "light_pass", "add", "Room, locked off", "A dimmable lamp where the element will be, in its time.", (LOCKED, "lamp at the element's place, hidden", "its colour measured", "room dark but for it"), fields={"near_m": Of("distance_m"), "depth_m": 3.0, "width_m": 6.0, "height_m": 3.0, "fills_frame": True, "seen_s": 0.4}),
            Plate("Room", "live", "base", "Room, locked off", "The hero.", (LOCKED, "headroom for the flash"), hero=True, fields={**ROOM, "brightest_stops": 5.0}),
        ),
        (("Room", "With its own light."), ("Light thrown", "In the same set-up, the room dark."), ("Element on black", "Chosen last, to the time of the light.")),
        (("The room does not answer", "an element laid on: the light pass is what is believed"), ("The flash burns out", "item Clipping"), ("Element enlarged", "item Enlargement")),
        cautions=("flame", "strobe", "hot_lamps"), asks=(AWAY, SIZE), ways=("stock", "in_camera", "painted"), lock_off=True,
    ),
    Recipe(
        "screen", 20, "Picture or screen replaced",
        "A screen, a painting or a window shows what we choose.",
        ("screen",), (),
        (
            Plate("Picture on the screen", "stock", "over", "", "Laid in behind the reflections.", ("made at its size in the frame", "perspective from the four marks"), fields={"near_m": Of("distance_m"), "width_m": Of("size_m", 1.6), "height_m": Of("size_m"), "picture_width_px": 1920}),
            Plate("Reflections on the glass", "reflection_pass", "screen", "Room", "The screen black: what it mirrors.", ("same set-up, screen off",), fields={"near_m": Of("distance_m", 0.99), "width_m": Of("size_m", 1.6), "height_m": Of("size_m")}),
            Plate("Room", "live", "base", "Room", "The hero: a card in the screen, white or coloured, with marks.", ("four marks, not on the edge", "mirror ball at the screen's place", "card's own light on faces near it"), hero=True, fields=dict(ROOM)),
        ),
        (("Room", "With the card and its marks."), ("Reflections on the glass", "In the same set-up, at once."), ("Picture", "When the cut is known.")),
        (("Hair before a coloured card", "white card and a multiplied picture keep it"), ("No reflection", "it is pasted"), ("Marks under a thumb", "tracking breaks; item Tracking mark")),
        asks=(AWAY, SIZE), ways=("key", "hand_cut", "in_camera"),
        schools="Card in the sheet's colour: quick to cut, spills. White or grey card: nothing to spill, cut by hand. A real screen: right light at once, and its flicker.",
    ),
    Recipe(
        "thrown_light", 22, "Light that an added thing throws",
        "The thing that we add shines, and all that is near it is lit.",
        ("light", "creature"), ("locked camera",),
        (
            Plate("Front cut back on top", "live", "hand_matte", "Place, locked off", "What is before the thing, cut out of the same take.", (LOCKED,), fields={"near_m": Of("distance_m", 0.7), "width_m": 1.0, "height_m": 1.7}),
            Plate("Added thing", "painted", "add", "", "The shining thing itself.", ("its colour is the lamp's",), fields={**THING, "picture_width_px": 1920}),
            Plate("Light thrown", "light_pass", "add", "Place, locked off", "A real lamp, dimmed in its time, near where the thing will be.", (LOCKED, "lamp hidden behind the thing's place", "dimmed to a count", "again without, at once"), fields={"near_m": Of("distance_m", 1.02), "depth_m": 2.0, "width_m": 6.0, "height_m": 3.0, "fills_frame": True}),
            Plate("Place", "live", "base", "Place, locked off", "The hero.", (LOCKED,), hero=True, fields=dict(ROOM)),
        ),
        (("Place", "In its own light."), ("Light thrown", "The same, with the lamp in its time.")),
        (("Lamp stands a step from where the thing will be", "shadows point to nothing; item Direction of light"), ("Lamp harder than the thing is large", "item Hardness of light")),
        cautions=("hot_lamps", "mains_water", "strobe"), asks=(AWAY, SIZE), ways=("in_camera", "painted", "hand_cut"), lock_off=True,
    ),
)  # fmt: skip
