"""Films: MP4 and WebM, read by PyAV."""

from __future__ import annotations

import io
from collections.abc import Iterator

import av
import numpy as np
from av.error import FFmpegError

from keen_ripple.media.reel import MOST_FRAMES_OF_FILM, MediumFault, Pixels, Reel, check_size

FPS_UNSAID = 30
CLEAR = {"vp8": "libvpx", "vp9": "libvpx-vp9"}


class Film(Reel):
    """The first track of pictures in a file; sound is not played."""

    def __init__(self, data: bytes) -> None:
        super().__init__()
        is_mp4 = data[4:8] == b"ftyp"
        self.mime = "video/mp4" if is_mp4 else "video/webm"
        try:
            self._file = av.open(io.BytesIO(data), mode="r", format="mp4" if is_mp4 else "matroska")
            self._track = self._file.streams.video[0]
            self.width, self.height = self._track.width, self._track.height
            ends = [self._file.duration and self._file.duration / 1000.0, self._track_ms()]
            self.length_ms = round(max(end for end in ends if end))
            self.frames = self._track.frames or round(
                self.length_ms / 1000.0 * float(self._track.average_rate or FPS_UNSAID)
            )
            check_size(self.width, self.height, self.frames, self.length_ms, most_frames=MOST_FRAMES_OF_FILM)
            self._frame, self._next_ms = self._read_from(0.0)
        except MediumFault:
            raise
        except (FFmpegError, IndexError, ValueError, StopIteration):
            raise MediumFault(
                "The file cannot be read as a film.",
                remedy="Save it again as MP4 or WebM, or choose another.",
            ) from None

    def _track_ms(self) -> float | None:
        return self._track.duration and float(self._track.duration * (self._track.time_base or 0)) * 1000.0

    def _read_from(self, t_ms: float) -> tuple[Pixels, float]:
        """The frame shown at a moment, and when the next one is: from the last whole picture before it on."""
        base = self._track.time_base
        assert base is not None
        self._file.seek(int(t_ms / 1000.0 / float(base)), stream=self._track, backward=True)
        self._decoded = self._see_through() if self._is_clear else self._file.decode(self._track)
        self._start_ms = -1.0
        self._ahead: av.VideoFrame | None = next(self._decoded)
        return self._forward(t_ms)

    @property
    def _is_clear(self) -> bool:
        """Whether the file says that it is transparent somewhere (WebM, AlphaMode)."""
        return self._track.metadata.get("alpha_mode") == "1" and self._track.codec_context.name in CLEAR

    def _see_through(self) -> Iterator[av.VideoFrame]:
        """The decoder that FFmpeg chooses by itself leaves transparency out."""
        decoder = av.CodecContext.create(CLEAR[self._track.codec_context.name], "r")
        assert isinstance(decoder, av.VideoCodecContext)
        for packet in self._file.demux(self._track):
            yield from decoder.decode(packet)

    def _forward(self, t_ms: float) -> tuple[Pixels, float]:
        shown = None
        while self._ahead is not None and (shown is None or self._ms(self._ahead) <= t_ms):
            shown, self._ahead = self._ahead, next(self._decoded, None)
        assert shown is not None
        self._start_ms = self._ms(shown)
        pixels = np.asarray(shown.to_ndarray(format="rgba"), dtype=np.uint8)
        return pixels, float("inf") if self._ahead is None else self._ms(self._ahead)

    def _at(self, t_ms: float) -> Pixels:
        is_behind = t_ms < self._start_ms and self._start_ms > 0.0
        if is_behind or (t_ms >= self._next_ms and t_ms - self._next_ms > 2000.0):
            self._frame, self._next_ms = self._read_from(t_ms)
        elif t_ms >= self._next_ms:
            self._frame, self._next_ms = self._forward(t_ms)
        return self._frame

    def _ms(self, frame: av.VideoFrame) -> float:
        # Rounded, since a moment that a frame begins at is told in whole ms.
        return round(float((frame.pts or 0) * (self._track.time_base or 0)) * 1000.0, 3)
