import { attempt, tell, useBench } from '../bench';
import { closeLoop, type Closing } from '../edits';

const WAYS: [Closing, string, string][] = [
  ['tween', 'tween back', 'From the last look to the first, in motion'],
  ['cross-fade', 'cross-fade', 'The first look comes through the last one'],
  ['same', 'begin as it ends', 'The first state takes the look of the last: nothing is left to jump'],
];

/** What closes a run that ends, or whose seam jumps. It is seen in the loop at once, and undone in one step. */
export function CloseLoop() {
  const run = useBench((b) => b.run);
  const seam = useBench((b) => b.seam);
  const ends = run.loop_ms === null && run.segments.length > 0;
  if (!ends && !seam?.open) return null;
  const close = async (how: Closing, label: string) => {
    const edit = closeLoop(useBench.getState().document!, run, how);
    if (!(await attempt(edit))) return;
    const after = useBench.getState();
    tell(`Closed: ${label}. The loop takes ${after.run.loop_ms ?? after.run.total_ms} ms${after.seam ? `, its seam is ${after.seam.distance_px.toFixed(1)} px` : ''}. Undo takes it back.`);
  };
  return (
    <section className="retime" aria-label="Close the loop">
      <h3>Close the loop</h3>
      <p className="quiet">{ends ? 'It plays once and ends.' : `Its seam jumps by ${seam!.distance_px.toFixed(1)} px.`}</p>
      <div className="chips">
        {WAYS.map(([how, label, title]) => (
          <button key={how} title={title} onClick={() => void close(how, label)}>
            {label}
          </button>
        ))}
      </div>
    </section>
  );
}
