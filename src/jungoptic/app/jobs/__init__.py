"""Work that takes longer than an answer may: queued, carried out in a process of its own, followed,
stopped.
"""
