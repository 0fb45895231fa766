"""Work of seconds to minutes, done beside the server by workers, on this machine or others."""

from keen_ripple.jobs.job import Job
from keen_ripple.jobs.jobs import Jobs, Unmade
from keen_ripple.jobs.orders import ALL, FILES, MEASURED, Order
from keen_ripple.jobs.queue import QueueAway, QueueFault, QueueFull

__all__ = ["ALL", "FILES", "MEASURED", "Job", "Jobs", "Order", "QueueAway", "QueueFault", "QueueFull", "Unmade"]
