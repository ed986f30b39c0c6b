"""What happens in a production, told to the browsers that look at it as it happens: server-sent events, from
a process of their own.
"""
