"""The local network: a certificate authority of the machine's own, and how a telephone comes to trust it."""
