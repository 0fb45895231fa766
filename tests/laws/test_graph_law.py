"""Graphs lie on what the timeline shows."""

from __future__ import annotations

from typing import Any

import numpy as np
import pytest
from hypothesis import given, settings
from strategies import pieces

from keen_ripple.core.document import read_piece
from keen_ripple.core.errors import Fault
from keen_ripple.core.measures.graph import graph_of
from keen_ripple.core.timeline import sample, timeline_of


@settings(max_examples=60, deadline=None)
@given(pieces())
def test_graphs_lie_on_the_timeline(document: dict[str, Any]) -> None:
    try:
        timeline = timeline_of(read_piece(document))
    except Fault:
        return
    for track in timeline.tracks:
        graph = graph_of(timeline, track.layer, track.property.name)
        if graph is None:
            continue
        assert np.all(np.diff(graph.times_ms) >= 0)
        # At a cut both values are on it; elsewhere the one that the timeline has.
        alone = np.append(np.diff(graph.times_ms) > 1e-6, True) & np.append(True, np.diff(graph.times_ms) > 1e-6)
        times = graph.times_ms[alone & (graph.times_ms < timeline.run.total_ms - 1e-6)][::7]
        looks = sample(timeline, times.tolist())
        values = graph.values[np.searchsorted(graph.times_ms, times)]
        assert [look[track.layer][track.property.name] for look in looks] == pytest.approx(values.tolist(), abs=1e-6)
