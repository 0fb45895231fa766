import { Flex } from 'antd';
import { useCallback, useMemo, type PointerEvent } from 'react';
import { area, line } from '../../shared/drawing/paint';
import './ring.css';
import { scrubbing } from '../../shared/ui/pulling';
import { INKS, arcsOf, seconds } from './ring';
import { sliderProps, usePlayhead, type Scrubbed } from './usePlayhead';

interface Props extends Scrubbed {
  /** px */
  width: number;
  /** With the time above it. */
  large?: boolean;
}

const MARGIN = 4;
const HEIGHT = 18;

/** A run that ends, as a bar with its end marked. */
export function RunBar({ run, clock, name, seek = (moment) => clock.seek(moment), width, large = false }: Props) {
  const arcs = useMemo(() => arcsOf(run), [run]);
  const inner = width - 2 * MARGIN;
  const length_ms = Math.max(run.total_ms, 1);
  const place = useCallback((moment: number) => [(moment / length_ms) * inner, 0] as const, [inner, length_ms]);
  const { dot, label, slider } = usePlayhead(clock, place);

  const scrub = (event: PointerEvent<SVGSVGElement>) => {
    const box = event.currentTarget.getBoundingClientRect();
    seek(Math.min(Math.max((event.clientX - box.left - MARGIN) / inner, 0), 1) * run.total_ms);
  };

  return (
    <Flex vertical align="end" gap={4} className="run-bar">
      {large && (
        <span className="mono">
          <span ref={label} /> <span className="quiet">of {seconds(run.total_ms)} s</span>
        </span>
      )}
      <span className="face">
        <svg
          ref={slider}
          width={width}
          height={HEIGHT}
          viewBox={`${-MARGIN} ${-HEIGHT / 2} ${width} ${HEIGHT}`}
          {...sliderProps({ run, clock, name, seek })}
          {...scrubbing(scrub)}
        >
          {arcs.map((arc) => {
            const thick = arc.kind === 'travel' ? 7 : 2.4;
            const long = Math.max((arc.to - arc.from) * inner - 1.5, 0.5);
            return (
              <rect
                key={arc.from}
                {...area(INKS[arc.kind])}
                x={arc.from * inner}
                y={-thick / 2}
                width={long}
                height={thick}
                rx={1}
              />
            );
          })}
          <line {...line('ink', 2)} x1={inner} x2={inner} y1={-6} y2={6} />
        </svg>
        <i ref={dot} className="moment" style={{ left: MARGIN, top: HEIGHT / 2 }} />
      </span>
    </Flex>
  );
}
