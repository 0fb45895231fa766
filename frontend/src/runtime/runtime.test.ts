/* The runtime by itself: what it keeps, what it forgets, and that acting again shows the same. Its motion is held against
 * the core in tests/laws/test_runtime_law.py. */
import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { Heard, Tables } from './data';
import { back, tables, tap, there, ways } from './example';
import type { Pictures } from './live';
import { Session } from './session';

/** A session that writes into `shown`, with all that it was told. */
function used(from: Tables) {
  const shown: Record<string, unknown> = {};
  const heard: Heard[] = [];
  let shares: readonly number[] = [];
  const under = { write: vi.fn(), flush: vi.fn() };
  const pictures: Pictures = {
    top: { write: (layer, name, value) => (shown[`${layer}/${name}`] = value), flush: () => undefined },
    under: () => under,
    show: (now) => (shares = now),
  };
  const session = new Session(from, pictures, { heard: (each) => heard.push(each) });
  return { session, shown, heard, shares: () => shares };
}

beforeEach(() => vi.restoreAllMocks());

describe('a session', () => {
  it('stands exactly where the state says after a hundred taps in two seconds', () => {
    const { session, shown, heard } = used(tables(ways(there, back)));
    for (let n = 0; n < 100; n++) session.act(tap(20 * n));
    session.seek(5000);
    expect(heard.filter(({ transition }) => transition)).toHaveLength(200);
    expect([session.state, shown['box/x']]).toEqual(['a', 10]);
  });

  it('keeps no more than ten thousand events, and no look that is not seen', () => {
    const fade = { length_ms: 100, curve: 0 };
    const { session } = used(tables(ways({ ...there, fade }, { ...back, fade })));
    for (let n = 0; n < 10_500; n++) session.act(tap(5 * n));
    expect(session.events).toHaveLength(10_000);
    session.seek(session.now + 1000);
    expect(session.stage.fades).toEqual([]);
  });

  it('goes again where it was sent, with what was done before and after', () => {
    const { session, shown } = used(tables(ways(there, back)));
    session.go('b');
    session.seek(400);
    expect([session.state, shown['box/x']]).toEqual(['b', 50]);
    session.act(tap(500));
    session.seek(900);
    expect(session.state).toBe('a');
    session.seek(450);
    expect(session.state).toBe('b');
    session.perform([]);
    expect(session.state).toBe('a');
  });

  it('shows the same when it is acted again, at any moment', () => {
    const { session, shown } = used(tables(ways(there, back)));
    const live: unknown[] = [];
    const events = [tap(30), tap(90), tap(125)];
    for (let t = 0; t < 400; t += 7) {
      for (const event of events) if (event.t_ms > t - 7 && event.t_ms <= t) session.act(event);
      session.replay(session.events, t);
      live.push(shown['box/x']);
    }
    const again = used(tables(ways(there, back)));
    const replayed: unknown[] = [];
    for (let t = 0; t < 400; t += 7) {
      again.session.replay(events, t);
      replayed.push(again.shown['box/x']);
    }
    expect(replayed).toEqual(live);
  });

  it('forgets nothing that comes later, until somebody does something else', () => {
    const { session, shown } = used(tables(ways(there, back)));
    session.perform([tap(200), tap(0)]);
    session.seek(500);
    expect([session.state, session.events.length]).toEqual(['a', 2]);
    session.seek(50);
    expect([session.state, shown['box/x'], session.events.length]).toEqual(['b', 30, 1]);
    session.seek(500);
    expect([session.state, session.script]).toEqual(['a', [tap(0), tap(200)]]);
  });

  it('goes to a state by its transition, or at once', () => {
    const { session, shown } = used(tables(ways(there)));
    session.go('b');
    expect(session.stage.reached_ms).toBe(100);
    session.go('a');
    expect([session.state, session.stage.reached_ms]).toEqual(['a', 0]);
    session.seek(50);
    expect(shown['box/x']).toBe(10);
  });

  it('hears nothing while it stands still', () => {
    const { session, heard } = used(tables(ways(there)));
    session.pause();
    expect(session.act(tap(10))).toBeNull();
    session.pause(false);
    session.act(tap(20));
    expect(heard.map(({ reason }) => reason)).toEqual(['heeded']);
  });

  it('shows where motion comes to rest, and nothing of the way, where motion is unwanted', () => {
    const { session, shown } = used(tables(ways(there)));
    session.setCalm(true);
    session.replay([tap(0)], 30);
    expect(shown['box/x']).toBe(50);
  });

  it('sends back along a curve in the time that it had taken', () => {
    const { session, shown } = used(tables(ways(there, back)));
    session.replay([tap(0), tap(25)], 37.5);
    expect(shown['box/x']).toBeCloseTo(15, 6);
    expect(session.stage.reached_ms).toBeCloseTo(50, 6);
  });

  it('fades what it leaves, and goes on fading when it is interrupted', () => {
    const fade = { length_ms: 100, curve: 0 };
    const spans = [{ start_ms: 0, end_ms: 0 }];
    const { session, shown, shares } = used(tables(ways({ ...there, fade, spans }, back)));
    session.replay([tap(0), tap(40)], 60);
    expect(shares()).toEqual([expect.closeTo(0.4, 6)]);
    expect(shown['box/x']).toBeCloseTo(42, 6);
  });

  it('says of states that follow each other in no time which they are', () => {
    const at_once = { cue: 'hold', length_ms: 0, spans: [{ start_ms: 0, end_ms: 0 }] };
    const { session } = used(tables(ways({ ...there, ...at_once }, { ...back, ...at_once })));
    expect(() => session.seek(1)).toThrow('no time');
  });
});
