"""Frames measured: pictures in, amounts with their errors out."""

from .amounts import TWICE, Amount, Measurement, Overlay, Places, Series, Weight
from .ball import ShadingFit, Source, found_ball, grey_ball_light, mirror_ball_lights
from .black import BlackWatch, OnBlack
from .change import Gains, gains, laid_back, still_pixels
from .changed import Changed, changed
from .clip import ClipMeasured, ClipWatch
from .copied import CopyWatch
from .corners import sheet_corners
from .crossing import Crossing, Watched
from .differing import Differs
from .edge import Edge, edge_of
from .evenness import Contour, EvennessMeasured, backing_seen, channel_of, evenness_of
from .flicker import Flicker, alias_hz, drift_of, flicker_of_frames
from .grain import Grain, GrainLevel, grain_of_frames, grain_of_still
from .grey import ChartMeasured, GreyMeasured, chart_matrix, chart_patches, grey_of
from .key import WAYS, Keyed, keyed, separation_of
from .keys import KeySpan, MatteKeys, differs, matte_keys
from .lines import EdgesFound, edges_found
from .movement import Codes, Flow, Motion, MovementWatch, flow_between, period_frames, sharpness
from .over_time import LightCue, LightOverTime, light_over_time
from .patch import Patch, best_patch
from .pixels import brightness
from .proposals import MarkFound, proposals
from .recorded import CURVES, MATRICES, Curve, CurveName, linear, signal_of_luma, signal_of_planes
from .registered import FEWEST_POINTS, Registered, Textured, registered, textured
from .seam import Changes, Seam, best_seam
from .set_frame import HeldAgainst, SetFrame
from .shake import ShakeWatch
from .softened import Softened, softened
from .still import Moved, moved, similarity
from .wobble import PointWatch, Wobble, point_again, steady_path, wobble_of_path

__all__ = [
    "CURVES",
    "FEWEST_POINTS",
    "MATRICES",
    "TWICE",
    "WAYS",
    "Amount",
    "BlackWatch",
    "Changed",
    "Changes",
    "ChartMeasured",
    "ClipMeasured",
    "ClipWatch",
    "Codes",
    "Contour",
    "CopyWatch",
    "Crossing",
    "Curve",
    "CurveName",
    "Differs",
    "Edge",
    "EdgesFound",
    "EvennessMeasured",
    "Flicker",
    "Flow",
    "Gains",
    "Grain",
    "GrainLevel",
    "GreyMeasured",
    "HeldAgainst",
    "KeySpan",
    "Keyed",
    "LightCue",
    "LightOverTime",
    "MarkFound",
    "MatteKeys",
    "Measurement",
    "Motion",
    "Moved",
    "MovementWatch",
    "OnBlack",
    "Overlay",
    "Patch",
    "Places",
    "PointWatch",
    "Registered",
    "Seam",
    "Series",
    "SetFrame",
    "ShadingFit",
    "ShakeWatch",
    "Softened",
    "Source",
    "Textured",
    "Watched",
    "Weight",
    "Wobble",
    "alias_hz",
    "backing_seen",
    "best_patch",
    "best_seam",
    "brightness",
    "changed",
    "channel_of",
    "chart_matrix",
    "chart_patches",
    "differs",
    "drift_of",
    "edge_of",
    "edges_found",
    "evenness_of",
    "flicker_of_frames",
    "flow_between",
    "found_ball",
    "gains",
    "grain_of_frames",
    "grain_of_still",
    "grey_ball_light",
    "grey_of",
    "keyed",
    "laid_back",
    "light_over_time",
    "linear",
    "matte_keys",
    "mirror_ball_lights",
    "moved",
    "period_frames",
    "point_again",
    "proposals",
    "registered",
    "separation_of",
    "sharpness",
    "sheet_corners",
    "signal_of_luma",
    "signal_of_planes",
    "similarity",
    "softened",
    "steady_path",
    "still_pixels",
    "textured",
    "wobble_of_path",
]
