"""What stands on the set and can be spoken to: camera, rig, dimmer, meter.

Real ones come in by the settings, screens know none of them.
"""
