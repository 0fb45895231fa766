import { useLayoutEffect, useRef } from 'react';
import { known } from '../../../shared/known';
import { clock } from '../bench';

/** Where in its period it is just now. Moved by its transform alone. */
export function PeriodMark({ period, ahead, width }: { period: number; ahead: number; width: number }) {
  const mark = useRef<HTMLElement>(null);
  useLayoutEffect(
    () =>
      clock.listen(() => {
        const share = ((clock.t + ahead) % period) / period;
        known(mark.current).style.transform = `translateX(${(share * width).toFixed(1)}px)`;
      }),
    [period, ahead, width],
  );
  return <i ref={mark} className="period-mark" aria-hidden="true" />;
}
