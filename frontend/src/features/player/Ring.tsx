import { useCallback, useMemo, type PointerEvent } from 'react';
import { area, line } from '../../shared/drawing/paint';
import './ring.css';
import { scrubbing } from '../../shared/ui/pulling';
import { INKS, arcPath, arcsOf, drawnPart, pointAt, seconds } from './ring';
import { sliderProps, usePlayhead, type Scrubbed } from './usePlayhead';

interface Props extends Scrubbed {
  /** px across */
  size: number;
  /** With the time in its middle. */
  large?: boolean;
}

const OF = { font: "9.5px 'Hanken Grotesk', sans-serif", fill: 'var(--quiet)' };
const LARGE = { width: 12.4, height: 12.4, margin: -6.2 };

/** The loop as a clock face: thin brass for holds, thick green for travel, a notch at the seam. */
export function Ring({ run, clock, name, seek = (moment) => clock.seek(moment), size, large = false }: Props) {
  const radius = size / 2 - (large ? 8 : 4.5);
  const stroke = large ? 9 : 6;
  const arcs = useMemo(() => arcsOf(run), [run]);
  const { from_ms, length_ms } = drawnPart(run);
  const place = useCallback(
    (moment: number) => pointAt(Math.max(moment - from_ms, 0) / length_ms, radius),
    [from_ms, length_ms, radius],
  );
  const { dot, label, slider } = usePlayhead(clock, place);

  const scrub = (event: PointerEvent<SVGSVGElement>) => {
    const box = event.currentTarget.getBoundingClientRect();
    const [x, y] = [event.clientX - box.left - box.width / 2, event.clientY - box.top - box.height / 2];
    const turn = (Math.atan2(x, -y) / (2 * Math.PI) + 1) % 1;
    seek(from_ms + turn * length_ms);
  };

  const half = size / 2;
  return (
    <span className="face">
      <svg
        ref={slider}
        className={large ? 'ring large' : 'ring'}
        width={size}
        height={size}
        viewBox={`${-half} ${-half} ${size} ${size}`}
        {...sliderProps({ run, clock, name, seek })}
        {...scrubbing(scrub)}
      >
        {arcs.map((arc) => (
          <path
            key={arc.from}
            {...line(INKS[arc.kind], arc.kind === 'travel' ? stroke : stroke / 3)}
            d={arcPath(arc.from, arc.to, radius, 3)}
          />
        ))}
        <path {...area('ink')} d={`M0 ${-radius + 1}l${-stroke / 2} ${-stroke * 0.8}h${stroke}Z`} />
        {large && (
          <>
            <text ref={label} y={0} />
            <text className="of" style={OF} y={13}>
              of {seconds(run.total_ms)} s
            </text>
          </>
        )}
      </svg>
      <i ref={dot} className="moment" style={{ left: half, top: half, ...(large && LARGE) }} />
    </span>
  );
}
