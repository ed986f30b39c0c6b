"""Layers held against the hero plate: measured in the delivered frame, judged, explained."""

from .at_once import measured_members
from .board import BoardLine
from .camera import exposure_offset_stops, focal_px, picture_view_deg
from .compare import Judgement, PlacingErrors, judge, judge_match, judge_member
from .complete import cleaned_by
from .cut import CutJudgement, CutSide, across_cut, cut_side
from .differences import NOT_SET, Difference, differences, file_differences, settings_in_words, stopped_early
from .explain_focus import focus_band_m, own_depth_m
from .facts import Facts, judge_facts
from .fill import known_values
from .ground import GroundLine, ground_lines, ground_text, on_ground, on_its_ground
from .in_set import judge_in_set
from .layer import MOST_PARTS, Layer, Part
from .lighting import key_of, on_backing_lx, resolved, with_lamps
from .limits import tolerance_of
from .many import Many
from .marks import Mark, Read, Reading, Stands, reading_of
from .measure import Match
from .photograph import HeroField, frame_in_picture, hero_fields, same_lens
from .records import Delivery, Judging, SetUp
from .saying import Fix, Value
from .stack import Member, ShotPlan, Stack
from .standing_off import OFF_DIALS, Off, OffDial, off_view
from .taken import unknown_of
from .tolerances import ITEMS, Item, Tolerance, ladder, verdict, worst
from .view import START, Moment, camera_pace_px
from .weighed import weighed

__all__ = [
    "ITEMS",
    "MOST_PARTS",
    "NOT_SET",
    "OFF_DIALS",
    "START",
    "BoardLine",
    "CutJudgement",
    "CutSide",
    "Delivery",
    "Difference",
    "Facts",
    "Fix",
    "GroundLine",
    "HeroField",
    "Item",
    "Judgement",
    "Judging",
    "Layer",
    "Many",
    "Mark",
    "Match",
    "Member",
    "Moment",
    "Off",
    "OffDial",
    "Part",
    "PlacingErrors",
    "Read",
    "Reading",
    "SetUp",
    "ShotPlan",
    "Stack",
    "Stands",
    "Tolerance",
    "Value",
    "across_cut",
    "camera_pace_px",
    "cleaned_by",
    "cut_side",
    "differences",
    "exposure_offset_stops",
    "file_differences",
    "focal_px",
    "focus_band_m",
    "frame_in_picture",
    "ground_lines",
    "ground_text",
    "hero_fields",
    "judge",
    "judge_facts",
    "judge_in_set",
    "judge_match",
    "judge_member",
    "key_of",
    "known_values",
    "ladder",
    "measured_members",
    "off_view",
    "on_backing_lx",
    "on_ground",
    "on_its_ground",
    "own_depth_m",
    "picture_view_deg",
    "reading_of",
    "resolved",
    "same_lens",
    "settings_in_words",
    "stopped_early",
    "tolerance_of",
    "unknown_of",
    "verdict",
    "weighed",
    "with_lamps",
    "worst",
]
