import { memo, useEffect, useRef } from 'react';
import type { Piece } from '../../api/contract';
import type { Tables } from '../../runtime/data';
import type { Happening, Rehearsed } from './happenings';
import { didOf, tablesOf, wayOf, whereOf, whyNot } from './words';

interface Listed {
  happening: Happening;
}

interface Props {
  piece: Piece;
  tables: Tables;
  store: Rehearsed;
  listen: (shown: (t: number) => void) => () => void;
}

/** Everything that happened, and what it set off or why nothing; the newest is in sight. */
export function Happened({ piece, tables, store, listen }: Props) {
  const list = store((s) => s.list);
  return (
    <aside className="happened" aria-label="What happened">
      <header>
        <h2>What happened</h2>
        <Time listen={listen} last={list.at(-1)?.at_ms ?? 0} />
      </header>
      {!list.length && (
        <p className="quiet">
          Nothing yet. Use the piece with pointer, finger or keys: each thing you do is listed here.
        </p>
      )}
      <div className="newest-in-sight">
        <ol aria-label="List of what happened">
          {list.map((happening) => (
            <Line key={happening.number} piece={piece} tables={tables} happening={happening} />
          ))}
        </ol>
      </div>
    </aside>
  );
}

const Line = memo(function Line({ piece, tables, happening }: Omit<Props, 'store' | 'listen'> & Listed) {
  const { at_ms, heard, taken } = happening;
  const way = taken && wayOf(tablesOf(tables, heard?.copy ?? null), taken);
  return (
    <li className={heard && !heard.transition ? 'unheeded' : undefined}>
      <span className="at">{Math.round(at_ms)}</span>
      <span>
        {heard ? (
          <>
            <strong>{didOf(heard)}</strong> <span className="quiet">{whereOf(piece, heard.event.layer)}</span>
          </>
        ) : (
          <span className="quiet">by itself</span>
        )}
        <span className="came">
          <i className={taken ? 'dot' : 'dot none'} />
          {way ? (
            <>
              {way[0]} → <strong>{way[1]}</strong> in {way[2]}
            </>
          ) : (
            heard && whyNot(piece, tables, heard)
          )}
        </span>
      </span>
    </li>
  );
});

/** Said ten times a second. */
const SAID_EVERY_MS = 100;

/** The time now, and since the last thing that happened. */
function Time({ listen, last }: { listen: Props['listen']; last: number }) {
  const now = useRef<HTMLSpanElement>(null);
  const since = useRef<HTMLSpanElement>(null);
  useEffect(() => {
    let said = -1;
    return listen((t) => {
      const due = Math.floor(t / SAID_EVERY_MS);
      if (due === said) return;
      said = due;
      if (now.current) now.current.textContent = `${Math.round(t)} ms`;
      if (since.current) since.current.textContent = last ? `${Math.round(Math.max(t - last, 0))} ms since` : '';
    });
  }, [listen, last]);
  return (
    <span className="time">
      <span ref={now} className="num">
        0 ms
      </span>
      <span ref={since} className="num quiet" />
    </span>
  );
}
