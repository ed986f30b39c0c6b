"""Writes of the animator's desk, by operation: an address and a body that are good, of :class:`Demo`."""

OF_FRAMES = {
    "post /api/layers/{layer_id}/exposure-sheet": lambda d: (
        f"/layers/{d.mill.pk}/exposure-sheet",
        {"on": 3},
    ),
    "patch /api/exposure-sheets/{sheet_id}": lambda d: (
        f"/exposure-sheets/{d.exposure_sheet().pk}",
        {"removed": True},
    ),
    "post /api/exposure-sheets/{sheet_id}/rigs": lambda d: (
        f"/exposure-sheets/{d.exposure_sheet().pk}/rigs",
        {"name": "Crane", "legs": [{"mm": 40.0, "start_frame": 3, "end_frame": 30}]},
    ),
    "post /api/exposure-sheets/{sheet_id}/poses": lambda d: (
        f"/exposure-sheets/{d.exposure_sheet().pk}/poses",
        {"after": d.pose().pk, "hold": 3},
    ),
    "post /api/exposure-sheets/{sheet_id}/span": lambda d: (
        f"/exposure-sheets/{d.exposure_sheet().pk}/span",
        d.span(),
    ),
    "post /api/exposure-sheets/{sheet_id}/pieces": lambda d: (
        f"/exposure-sheets/{d.exposure_sheet().pk}/pieces",
        {"name": "Bollard", "box": [0.1, 0.6, 0.2, 0.8]},
    ),
    "post /api/exposure-sheets/{sheet_id}/pictures": lambda d: (
        f"/exposure-sheets/{d.exposure().pose.sheet_id}/pictures",
        {"format": "exr", "expanded": False},
    ),
    "post /api/exposure-sheets/{sheet_id}/figure-points": lambda d: (
        f"/exposure-sheets/{d.exposure_sheet().pk}/figure-points",
        {"name": "Beak"},
    ),
    "patch /api/figure-points/{point_id}": lambda d: (
        f"/figure-points/{d.figure_point().pk}",
        {"keys": [{"frame": 1, "x": 0.2, "y": 0.7}]},
    ),
    "post /api/figure-points/{point_id}/places": lambda d: (
        f"/figure-points/{d.figure_point().pk}/places",
        {"exposure_id": d.exposure().pk, "x": 0.4, "y": 0.6},
    ),
    "post /api/exposure-sheets/{sheet_id}/clips": lambda d: (
        f"/exposure-sheets/{d.exposure_sheet().pk}/clips",
        {"use": "performance", "recording_id": d.watched_film().pk, "first_frame": 5},
    ),
    "patch /api/sheet-clips/{clip_id}": lambda d: (f"/sheet-clips/{d.sheet_clip().pk}", {"first_frame": 12}),
    "post /api/exposure-sheets/{sheet_id}/cheats": lambda d: (
        f"/exposure-sheets/{d.exposure_sheet().pk}/cheats",
        {"kind": "wall", "name": "back wall", "first_frame": 3},
    ),
    "patch /api/sheet-cheats/{cheat_id}": lambda d: (
        f"/sheet-cheats/{d.sheet_cheat().pk}",
        {"right_mm": 12.5, "last_frame": 40, "level": 0.5},
    ),
    "post /api/layers/{layer_id}/hyperlapse": lambda d: (
        f"/layers/{d.hero().pk}/hyperlapse",
        {"name": "Gable"},
    ),
    "patch /api/hyperlapses/{hyperlapse_id}": lambda d: (
        f"/hyperlapses/{d.hyperlapse().pk}",
        {"plan": {**d.hyperlapse().plan, "interval_s": 7.5}},
    ),
    "patch /api/set-pieces/{piece_id}": lambda d: (f"/set-pieces/{d.set_piece().pk}", {"removed": True}),
    "patch /api/rigs/{rig_id}": lambda d: (f"/rigs/{d.rig().pk}", {"stands": 12, "gears": [[10, 20]]}),
    "post /api/rigs/{rig_id}/turns": lambda d: (f"/rigs/{d.driven_rig().pk}/turns", {"to": 12}),
    "patch /api/poses/{pose_id}": lambda d: (f"/poses/{d.pose().pk}", {"hold": 3, "figure": "asleep"}),
    "post /api/poses/{pose_id}/exposures": lambda d: (
        f"/poses/{d.exposure().pose_id}/exposures",
        {"file": d.frame(4)},
    ),
    "patch /api/exposures/{exposure_id}": lambda d: (f"/exposures/{d.exposure().pk}", {"removed": True}),
}
