"""Layers held against the hero plate: measured in the delivered frame, judged, explained."""

from .compare import Judgement, judge
from .records import Delivery, Layer, SetUp

__all__ = ["Delivery", "Judgement", "Layer", "SetUp", "judge"]
