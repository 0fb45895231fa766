"""From the document to what is seen, in the order in which data takes it.

layout → poses → moves → tape → legs → run → track → sampling; `core.timeline` puts it together.
"""
