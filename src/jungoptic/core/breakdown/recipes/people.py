"""Recipes about people: twice, gone, falling, many, near misses. Full-size metres from the hero's lens; common practice."""

from ..recipe import Ask, Of, Place, Plate, Recipe

AWAY = Ask("distance_m", "They stand away", "m", 3, 0.8, 60)
PERSON = {"width_m": 0.7, "height_m": 1.75, "contact": "ground", "kept": ["contact_shadow"]}
LOCKED = "tripod, focus, exposure, white balance, ISO and light locked"
ROOM = {"near_m": 2.5, "depth_m": 3.0, "width_m": 6.0, "height_m": 3.0, "fills_frame": True}
CLEAN = {"near_m": 2.51, "width_m": 6.0, "height_m": 3.0, "fills_frame": True}

RECIPES = (
    Recipe(
        "twice", 5, "The same person twice",
        "One actor meets himself: across a line, in a mirror, crossing, or in a set of which one half is flopped.",
        ("twice",), ("locked camera",),
        (
            Plate("Left half", "split", "split", "Locked off", "The first of the two.", (LOCKED, "stays on his side of the line", "eyes on a mark where the other will be"), fields={"near_m": Of("distance_m"), **PERSON, "split_side": "left", "moves_from_m": -1.3, "moves_to_m": -0.2}),
            Plate("Right half", "split", "split", "Locked off", "The second, to the sound of the first.", (LOCKED, "sound of the first played from a cue, offset measured", "stays on his side of the line"), fields={"near_m": Of("distance_m", 1.0, 0.01), **PERSON, "split_side": "right", "moves_from_m": 0.2, "moves_to_m": 1.3}),
            Plate("Clean plate", "clean_plate", "behind", "Locked off", "For the line and for every hand that crosses it.", (LOCKED, "20 to 30 s, at once"), fields=dict(CLEAN)),
            Plate("Room", "live", "base", "Locked off", "The hero.", (LOCKED,), hero=True, fields=dict(ROOM)),
        ),
        (("Left half", "The one that leads the talk first: the other answers a recording."), ("Clean plate", "Before the change of clothes: the light is still the same."), ("Right half", "After the change, nothing touched.")),
        (("An arm, a shadow or a glow crosses the line", "it is cut off; item Over the split line"), ("The exposure or the sun changed between the halves", "a step along the line; item Brightness"), ("Looks do not meet", "they talk past each other"), ("A thrown coat or a passed cup", "mark the place and the frame of the hand-over; throw several times to one spot")),
        asks=(AWAY,), ways=("split", "hand_cut", "key", "in_camera"), lock_off=True,
        schools="Locked line: cheapest, the camera stands. Repeated move on a rig: the line may travel, and everything must be exact.",
    ),
    Recipe(
        "vanish", 6, "Vanishing",
        "Somebody fades, is gone between two frames, or only a garment remains.",
        ("gone",), ("locked camera",),
        (
            Plate("Person", "live_element", "difference", "Locked off", "Goes out of the frame, or stands until he dissolves.", (LOCKED, "same pose held before the cut", "frame of the vanishing noted"), fields={"near_m": Of("distance_m"), **PERSON, "paint_out": "the person, from the vanishing on"}),
            Plate("Empty place", "clean_plate", "behind", "Locked off", "What is seen when he is gone.", (LOCKED, "20 to 30 s, at once", "focus not touched"), fields=dict(CLEAN)),
            Plate("Place", "live", "base", "Locked off", "The hero.", (LOCKED,), hero=True, fields=dict(ROOM)),
        ),
        (("Person", "Action first: the light is chosen for it."), ("Empty place", "At once, before anybody touches anything.")),
        (("Focus or exposure let go between both", "the whole picture jumps; item Clean plate's settings"), ("Shadow or reflection stays", "he is gone and his shadow is not"), ("Wind in leaves, tide, cloud", "loop the clean plate, and average it only where nothing moves")),
        asks=(AWAY,), ways=("difference", "split", "in_camera"), lock_off=True,
    ),
    Recipe(
        "near_miss", 10, "Near miss with vehicles",
        "A vehicle passes somebody by a hand's breadth.",
        ("danger",), ("locked camera",),
        (
            Plate("Person", "live", "split", "Road, locked off", "Alone, with the place empty of vehicles.", (LOCKED, "mark on the ground", "reacts to a spoken count"), fields={"near_m": Of("distance_m"), **PERSON, "split_side": "left", "moves_from_m": -3.0, "moves_to_m": -0.3}),
            Plate("Vehicle", "live", "split", "Road, locked off", "Alone, at a slow and safe speed.", (LOCKED, "passes alone, nobody near", "speed written down"), fields={"near_m": Of("distance_m", 1.0, 0.5), "width_m": 4.0, "height_m": 1.6, "contact": "ground", "kept": ["contact_shadow"], "split_side": "right", "moves_from_m": 0.1, "moves_to_m": 8.0, "driver": "set_speed", "speed_m_s": 4.0}),
            Plate("Empty road", "clean_plate", "behind", "Road, locked off", "For line and shadow.", (LOCKED, "20 s"), fields=dict(CLEAN)),
            Plate("Road", "live", "base", "Road, locked off", "The hero.", (LOCKED,), hero=True, fields={"near_m": 3.0, "depth_m": 60.0, "width_m": 10.0, "height_m": 3.0, "fills_frame": True}),
        ),
        (("Vehicle", "Alone. Nobody stands in its way, at any speed."), ("Person", "Alone, with the road closed."), ("Empty road", "At once.")),
        (("His shadow or the vehicle's crosses the line", "it is cut; item Over the split line"), ("The wind of it is missing", "coat and hair stay still"), ("Retimed too much", "wheels stand or turn backwards")),
        cautions=("roads",), asks=(AWAY,), ways=("split", "key", "stock"), lock_off=True,
    ),
    Recipe(
        "burst_through", 11, "Burst through",
        "Somebody comes through a wall, a door or a sheet of paper.",
        ("danger", "event"), ("locked camera",),
        (
            Plate("Wall bursts", "live", "hand_matte", "Wall, locked off", "The light wall that gives way, alone.", (LOCKED, "nobody behind it", "pieces swept and counted between takes"), fields={"near_m": Of("distance_m"), "width_m": 2.0, "height_m": 2.4, "driver": "gravity", "speed_m_s": 3.0}),
            Plate("Person comes through", "live_element", "hand_matte", "Wall, locked off", "Later, through the opening that is left.", (LOCKED, "same light", "dust in the air as in the first half"), fields={"near_m": Of("distance_m", 1.0, 0.4), **PERSON}),
            Plate("Whole wall", "clean_plate", "behind", "Wall, locked off", "Before anything is broken.", (LOCKED, "20 s"), fields=dict(CLEAN)),
            Plate("Room", "live", "base", "Wall, locked off", "The hero.", (LOCKED,), hero=True, fields=dict(ROOM)),
        ),
        (("Whole wall", "It can be filmed only before."), ("Wall bursts", "One half in time, with nobody near."), ("Person comes through", "The other half, through an opening made wide and smooth.")),
        (("Join in time is a frame off", "he is through before it breaks"), ("No dust on him", "stock dust on top binds both halves")),
        cautions=("dust", "workshop"), asks=(AWAY,), ways=("split", "hand_cut", "model"), lock_off=True,
    ),
    Recipe(
        "falling", 14, "Falling or flying",
        "Somebody falls, floats or flies, and never leaves the ground.",
        ("danger", "sky"), ("backing",),
        (
            Plate("Person in the air", "live_element", "key", "Person before the sheet", "Lies on a low, firm support of the sheet's colour, or stands; moving air and a moving camera do the rest.", ("low and firm: a step high, no more", "hair and cloth moved by a soft fan", "key's direction is the sky's"), hero=True, key_colour="green", fields={"near_m": Of("distance_m"), "width_m": 1.8, "height_m": 1.2, "base_m": 0.6, "moves_from_m": -1.1, "moves_to_m": 1.1}),
            Plate("Cloud in front", "stock", "screen", "", "Small weather on top binds.", (), fields={"near_m": Of("distance_m", 0.8), "width_m": 4.0, "height_m": 2.0, "picture_width_px": 1920, "behind_weather": True}),
            Plate("Ground or sky", "stock", "behind", "", "Moves: the eye gives the fall to the person.", ("camera height and lens known",), fields={"near_m": 800.0, "width_m": 1400.0, "height_m": 800.0, "picture_width_px": 3840}),
        ),
        (("Ground or sky", "Its light decides where the key stands."), ("Person in the air", "In many short takes.")),
        (("The support throws its own shadow", "item Shadow on the backing"), ("Cloth hangs down", "the air is missing"), ("Light from below is missing over bright ground", "item Key over fill")),
        cautions=("people_on_wires", "dust", "stands"), places=(Place("Person before the sheet", "green"),), asks=(AWAY,), ways=("key", "in_camera", "painted"),
        schools="On the ground before a sheet: ours. Hung on wires: for licensed riggers and stunt people only, and never from this tool.",
    ),
    Recipe(
        "crowd", 15, "Many from few",
        "A crowd, an army or a full hall, from a handful of people.",
        ("twice", "place"), ("backing",),
        (
            Plate("Row {n}", "live_element", "key", "Rows on the sheet", "Rows, each at its own distance, all from one low lens height.", ("lens height not touched between rows", "other clothes, other places, other gait in each row", "nobody leaves the sheet"), key_colour="blue", each="rows", apart_m=1.5, fields={"near_m": Of("distance_m"), "depth_m": 0.4, "width_m": Of("people", 0.85), "height_m": 1.75, "contact": "ground", "kept": ["contact_shadow"], "moves_from_m": Of("people", -0.45), "moves_to_m": Of("people", 0.45)}),
            Plate("Place", "live", "base", "Place, low", "The hero, from the same low height.", ("lens height written down", "empty, and with the nearest row's marks"), hero=True, fields={"near_m": Of("distance_m", 0.9), "depth_m": 200.0, "width_m": 10.0, "height_m": 3.0, "fills_frame": True}),
        ),
        (("Place", "Its lens height is everybody's."), ("Row", "The nearest row first: faces are seen there; tired people stand at the back.")),
        (("Rows filmed from standing height", "they climb like on a stair; item Camera height"), ("Feet are cut", "item Edge of the backing"), ("The same hat in three rows", "the eye counts hats")),
        places=(Place("Rows on the sheet", "blue"),), asks=(Ask("people", "People in a row", "", 3, 1, 30, True), Ask("rows", "Rows", "", 3, 1, 14, True), Ask("distance_m", "First row away", "m", 8, 2, 60)), ways=("key", "split", "hand_cut"),
    ),
    Recipe(
        "sky_figures", 21, "Figures placed in a sky",
        "Birds, lanterns, people, islands: hanging or drifting in the air.",
        ("sky",), (),
        (
            Plate("Figure {n}", "stock", "over", "", "Frozen or drifting; out of focus by its distance.", ("light from the sky's side",), each="figures", apart_m=25.0, fields={"near_m": Of("distance_m"), "width_m": 2.0, "height_m": 2.0, "base_m": 12.0, "travel_across_m": Of("drift_m"), "picture_width_px": 1200}),
            Plate("Sky plate", "live", "base", "Sky", "The hero.", ("a minute of it", "lens and tilt written down"), hero=True, fields={"near_m": 8.0, "depth_m": 2000.0, "width_m": 14.0, "height_m": 6.0, "fills_frame": True}),
        ),
        (("Sky plate", "Film skies whenever they look good."), ("Figures", "Chosen by the light of the sky.")),
        (("All sharp, whatever their distance", "a sticker album"), ("All drift alike", "speed goes as one over distance"), ("Lit from below by nothing", "item Direction of light")),
        asks=(Ask("figures", "Figures", "", 3, 1, 12, True), Ask("distance_m", "Nearest away", "m", 40, 3, 3000), Ask("drift_m", "They drift", "m", 4, -200, 200)), ways=("stock", "painted", "key"),
    ),
    Recipe(
        "exchange", 25, "Costume or prop exchanged in place",
        "A coat, a face or a thing changes while nobody moves.",
        ("gone",), ("locked camera",),
        (
            Plate("Before", "live_element", "hand_matte", "Locked off", "Ends in a pose that can be held.", (LOCKED, "last frame kept to lay over the next take", "marks for feet, hands and chin"), fields={"near_m": Of("distance_m"), **PERSON}),
            Plate("After", "live_element", "hand_matte", "Locked off", "Begins in the same pose.", (LOCKED, "last frame of the first laid over, feet to chin", "same breath"), fields={"near_m": Of("distance_m", 1.0, 0.01), **PERSON}),
            Plate("Clean plate", "clean_plate", "behind", "Locked off", "For edges that do not meet.", (LOCKED, "20 s"), fields=dict(CLEAN)),
            Plate("Room", "live", "base", "Locked off", "The hero.", (LOCKED,), hero=True, fields=dict(ROOM)),
        ),
        (("Before", "The harder costume first, fresh."), ("After", "At once: the pose is still in the body."), ("Clean plate", "When he steps out.")),
        (("Pose missed by a hand", "the body jumps: lay the frame over and correct before rolling"), ("Something that recurs has changed too", "a curtain, a candle's length")),
        asks=(AWAY,), ways=("split", "hand_cut", "in_camera"), lock_off=True,
    ),
)  # fmt: skip
