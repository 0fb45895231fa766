import { useLayoutEffect, useRef } from 'react';
import type { Run } from '../../api/contract';
import { clock, useWatch } from '../workbench';
import type { Scale } from './Sheet';
import { known } from '../../shared/known';

const SAID_EVERY_MS = 100;

const MOMENT = {
  position: 'absolute',
  inset: '-2px auto auto 5px',
  padding: '0 2px',
  background: 'var(--panel)',
  color: 'var(--coral-text)',
  fontSize: 10.5,
  whiteSpace: 'nowrap',
} as const;

/** Where playing stands, across all rows. Moved by its transform alone, so that no frame costs a layout. */
export function Playhead({ run, scale }: { run: Run; scale: Scale }) {
  const fps = useWatch((w) => w.fps);
  const line = useRef<HTMLDivElement>(null);
  const label = useRef<HTMLSpanElement>(null);
  useLayoutEffect(() => {
    let said = -1;
    return clock.listen((moment) => {
      known(line.current).hidden = moment < scale.from - 1 || moment > scale.to + 1;
      known(line.current).style.transform = `translateX(${scale.x(moment).toFixed(2)}px)`;
      // Near the end there is room on its other side.
      known(label.current).style.translate = scale.x(moment) > scale.width - 90 ? 'calc(-100% - 12px)' : '';
      const due = Math.floor(moment / SAID_EVERY_MS);
      if (clock.playing && due === said) return;
      said = due;
      known(label.current).textContent = `${Math.round(moment)} · frame ${clock.frameOf(fps)}`;
    });
  }, [scale, run, fps]);
  return (
    <div className="sheet-playhead" ref={line} aria-hidden="true">
      <span className="mono" ref={label} style={MOMENT} />
    </div>
  );
}
