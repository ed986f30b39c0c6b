"""Models and time: what a model 1:s small changes of speed and rate. Plain formulas; nothing is checked."""

from .similarity import gravity_rate_fps, gravity_speed_m_s, gravity_speed_ratio, set_speed_m_s

__all__ = ["gravity_rate_fps", "gravity_speed_m_s", "gravity_speed_ratio", "set_speed_m_s"]
