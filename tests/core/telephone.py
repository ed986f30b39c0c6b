"""What a telephone makes of a lit sheet: a second way to its picture, beside the simulated camera's."""

import cv2
import numpy as np

from jungoptic.core.match import Match
from jungoptic.core.measure import Curve
from jungoptic.core.stage.picture import linear_rgb
from jungoptic.core.stage.sheet_light import sheet_in_picture, sheet_light

SIZE = (1440, 1920)
CORNERS = np.array([(310.0, 250.0), (1660.0, 330.0), (1600.0, 1190.0), (340.0, 1230.0)])
BODY = np.array([(900, 560), (1040, 560), (1060, 1300), (880, 1300)])
BALL = (1400.0, 900.0, 70.0)
SKIN = (0.42, 0.26, 0.19)


def with_level(setup, name, level):
    """The set-up with one of its lamps at another level."""
    lamps = tuple(
        lamp.model_copy(update={"level": level}) if lamp.name == name else lamp for lamp in setup.lamps
    )
    return setup.but(lamps=lamps)


def by_telephone(match: Match, corners=CORNERS, body=False, seed=0, ball=None):
    """A photograph of a lit sheet from beside the camera: sRGB of 8 bits with noise, kept as a JPEG; what
    stands around it is grey, with a lamp's stand and a green box that is no sheet; ``ball`` is where from the
    key falls on a grey one (right, up, towards the telephone). Returns light and signal.
    """
    dice = np.random.default_rng(seed)
    setup = match.setup
    lit = sheet_light(match, setup, shadows=False)
    light, cover = sheet_in_picture(lit, corners, SIZE)
    around = 0.06 + 0.05 * cv2.GaussianBlur(dice.random(SIZE).astype(np.float32), (0, 0), 30.0)
    room = np.repeat(around[..., None], 3, axis=2)
    room[100:1300, 1750:1765] = 0.01
    room[1300:1400, 100:220] = (0.05, 0.2, 0.06)
    own = light[..., None] * linear_rgb(setup.backing.colour)
    picture = room * (1.0 - cover[..., None]) + own * cover[..., None] / float(own.max()) * 0.6
    if body:
        over = cv2.fillConvexPoly(np.zeros(SIZE, np.float32), BODY, 1.0, lineType=cv2.LINE_AA)[..., None]
        picture = picture * (1.0 - over) + over * np.float32(SKIN)
    if ball is not None:
        x, y, radius = BALL
        across, down = (np.indices(SIZE)[::-1] - np.array([x, y])[:, None, None]) / radius
        out = np.sqrt(np.maximum(0.0, 1.0 - across**2 - down**2))
        shade = 0.03 + 0.3 * np.maximum(0.0, ball[0] * across - ball[1] * down + ball[2] * out)
        picture = np.where((out > 0)[..., None], shade[..., None], picture)
    curved = 1.055 * np.maximum(picture, 0.0031308) ** (1.0 / 2.4) - 0.055
    codes = 255.0 * np.where(picture <= 0.0031308, 12.92 * picture, curved)
    noisy = np.clip(codes + dice.normal(0.0, 2.0, codes.shape), 0, 255).astype(np.uint8)
    _, kept = cv2.imencode(".jpg", noisy[..., ::-1], [cv2.IMWRITE_JPEG_QUALITY, 88])
    signal = cv2.imdecode(kept, cv2.IMREAD_COLOR)[..., ::-1].astype(np.float32) / 255.0
    return Curve("srgb").light(signal), signal
