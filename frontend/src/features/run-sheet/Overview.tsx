import type { PointerEvent } from 'react';
import { area } from '../../shared/drawing/paint';
import { scrubbing } from '../../shared/ui/pulling';
import type { SheetAxis } from './useAxis';

const H = 8;

/** Which part of the run is shown, as a bar that is pulled along it; nothing where all of it is. */
export function Overview({ axis: { scale, isWhole, pan }, total }: { axis: SheetAxis; total: number }) {
  const share = (ms: number) => (ms / Math.max(total, 1)) * scale.width;
  const scrub = (event: PointerEvent<SVGSVGElement>) => {
    const px = event.clientX - event.currentTarget.getBoundingClientRect().left;
    const middle = (scale.from + scale.to) / 2;
    pan(scale.x((px / scale.width) * total) - scale.x(middle));
  };
  return (
    <svg className="overview" width={scale.width} height={H} aria-hidden="true" {...scrubbing(scrub)}>
      {!isWhole && (
        <>
          <rect {...area('groove')} width={scale.width} height={H} />
          <rect
            {...area('glass')}
            x={share(scale.from)}
            width={Math.max(share(scale.to) - share(scale.from), 6)}
            height={H}
          />
        </>
      )}
    </svg>
  );
}
