"""Recipes about time, night and journeys. Full-size metres from the hero's lens; common practice."""

from ..recipe import Ask, Of, Place, Plate, Recipe

RECIPES = (
    Recipe(
        "hyperlapse", 17, "Hyperlapse, time-lapse",
        "Hours in seconds, from a camera that stands or travels.",
        ("time",), (),
        (
            Plate("Near cut-out", "painted", "over", "", "Something near that passes gives depth.", ("no more than 20 degrees from the lens",), fields={"near_m": Of("near_m"), "width_m": 3.0, "height_m": 1.4, "picture_width_px": 1920}),
            Plate("Photographs", "live", "base", "Camera on its path", "The hero: seconds times rate photographs, larger than delivery.", ("one reference point on the guide mark", "steady interval", "focus, exposure and white balance locked", "card and battery for all of them", "shutter short enough when held by hand"), hero=True, fields={"near_m": Of("near_m", 1.0, 0.2), "depth_m": 80.0, "width_m": 8.0, "height_m": 3.0, "fills_frame": True}),
        ),
        (("Photographs", "Once, in one go: the light will not come back."), ("Near cut-out", "Later, to the path that was walked.")),
        (("Exposure on automatic", "it pumps; flicker from frame to frame"), ("No margin for the stabiliser", "item Frame edge: photograph larger"), ("Interval not steady", "clouds stumble")),
        cautions=("water_edge", "roads"), asks=(Ask("near_m", "Nearest thing away", "m", 2, 0.3, 100),), ways=("in_camera", "stock"),
    ),
    Recipe(
        "night", 19, "Day for night",
        "Moonlight, filmed by day.",
        ("light",), (),
        (
            Plate("Moon and stars", "painted", "over", "", "The moon in the picture explains the light.", ("over the side that the sun stood on",), fields={"near_m": 2000.0, "width_m": 200.0, "height_m": 200.0, "base_m": 600.0, "picture_width_px": 1920}),
            Plate("Place by day", "live", "base", "Place by day", "The hero: under by 1.5 to 2.5 stops, cold, sun behind or at the side, no sky or a sky that is replaced.", ("sun behind or at the side", "sky kept out or easy to cut", "practical lamps lit and strong", "chart at the normal exposure"), hero=True, fields={"near_m": 5.0, "depth_m": 200.0, "width_m": 10.0, "height_m": 4.0, "fills_frame": True}),
            Plate("Night sky", "stock", "behind", "", "Replaces the day's.", (), fields={"near_m": 3000.0, "width_m": 4400.0, "height_m": 1500.0, "base_m": -30.0, "picture_width_px": 3840}),
        ),
        (("Place by day", "When the sun stands behind, and only then."), ("Night sky", "Before it is graded: it sets how dark.")),
        (("Front light", "it is a dark day, not a night"), ("A bright sky", "no grade saves it"), ("Lamps do not glow", "too weak against the sun")),
        asks=(), ways=("in_camera", "painted", "stock"),
    ),
    Recipe(
        "rolling_road", 23, "Rolling road and sky",
        "A journey in a vehicle that stands.",
        ("drive",), ("model",),
        (
            Plate("Vehicle", "live_element", "key", "Vehicle before the sheet", "The hero: it stands, is rocked a little, and lamps pass over it.", ("passing lights and shadows in their time", "what the glass mirrors is watched", "engine off"), hero=True, key_colour="green", fields={"near_m": Of("distance_m"), "width_m": 3.0, "height_m": 1.6, "moves_from_m": -1.6, "moves_to_m": 1.6}),
            Plate("Near verge", "model", "behind", "Rolling road", "A belt or a turning drum: image speed goes as one over the distance that it pretends.", ("speed by its pretended distance", "seam of the belt out of frame"), fields={"scale": Of("scale"), "near_m": Of("distance_m", 2.0), "width_m": 12.0, "height_m": 2.0, "driver": "set_speed", "speed_m_s": Of("speed_m_s")}),
            Plate("Far hills", "painted", "behind", "", "Hardly moves.", (), fields={"near_m": Of("distance_m", 80.0), "width_m": 600.0, "height_m": 60.0, "picture_width_px": 4800}),
            Plate("Sky", "stock", "behind", "", "Stands still.", (), fields={"near_m": 3000.0, "width_m": 4400.0, "height_m": 1500.0, "base_m": -30.0, "picture_width_px": 3840}),
        ),
        (("Near verge", "Its speed and light set the lamps that pass."), ("Vehicle", "Last, with the verge on a screen beside the driver.")),
        (("All layers run alike", "a curtain: speed goes as one over distance"), ("Glass mirrors the sheet", "item Seen in the gloss"), ("Verge without blur", "item Motion blur")),
        cautions=("roads", "workshop"), places=(Place("Vehicle before the sheet", "green"),), asks=(Ask("scale", "Scale of the road 1:", "", 8, 2, 40), Ask("distance_m", "Vehicle away", "m", 4, 1, 30), Ask("speed_m_s", "It drives", "m/s", 14, 1, 60)), ways=("key", "in_camera", "stock"),
        schools="Before a sheet: the view is chosen later. Before a painted or projected view: glass and faces get their light for nothing.",
    ),
)  # fmt: skip
