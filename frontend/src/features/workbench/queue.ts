/* Edits on their way to the server, one after another. They wait while it does not answer, through reloads too. */
import equal from 'fast-deep-equal';
import { create } from 'zustand';
import type { ChangeAnswer, Fault, Operation, Piece } from '../../api/contract';
import { api, ApiFault } from '../../api/client';
import { steps } from '../../shared/ui/hands';
import { patched, patchFor, type Intent } from './edits';

export interface Waiting {
  label: string;
  intent: Intent;
  /** What is changed again and again in one go is one step of undo. */
  burst: string;
}

interface Job {
  /** Of the piece that it belongs to, which may have been left. */
  id: string;
  waiting: Waiting | 'undo' | 'redo';
  done: () => void;
  failed: (error: unknown) => void;
}

/** The piece as the server has it, and what to do with its answers. */
export interface Target {
  now: () => { id: string; revision: number; document: Piece };
  take: (answer: ChangeAnswer) => Promise<void>;
  reload: (id: string) => Promise<void>;
}

/** How many edits have not been acknowledged yet, whether that should be said, and why they wait. */
export const useWaiting = create(() => ({
  count: 0,
  long: false,
  why: null as string | null,
  /** The server does not answer at all. */
  away: false,
  /** Another window has changed the piece, and somebody is typing here. */
  newer: false,
}));

const LONG_MS = 300;
const AGAIN_MS = 1000;
/** The server is away, cannot write just now, or asks to sign in again: nothing is wrong with the edit. */
const LATER = new Set([0, 401, 502, 503, 504, 507]);
/** Two changes of one thing within this time are one step of undo. */
const BURST_MS = 600;

export const isLater = (error: unknown): error is ApiFault => error instanceof ApiFault && LATER.has(error.status);
const keyFor = (id: string) => `keen-ripple waiting ${id}`;

export class EditQueue {
  private jobs: Job[] = [];
  private running = false;
  private wake: (() => void) | null = null;
  private burst = { name: '', id: '', at: 0 };
  private known: { document: Piece; jobs: number; drafted: Piece } | null = null;

  constructor(private readonly target: Target) {}

  get isEmpty(): boolean {
    return this.jobs.length === 0;
  }

  /** The document with everything that waits already done to it: what the next edit is to be told of. */
  drafted(): Piece {
    const { document } = this.target.now();
    if (this.known?.document === document && this.known.jobs === this.jobs.length) return this.known.drafted;
    this.known = { document, jobs: this.jobs.length, drafted: this.withWaiting(document) };
    return this.known.drafted;
  }

  private withWaiting(document: Piece): Piece {
    let now = document;
    const { id } = this.target.now();
    for (const { id: of, waiting } of this.jobs) {
      if (typeof waiting === 'string' || of !== id) continue;
      try {
        now = patched(now, patchFor(now, waiting.intent));
      } catch {
        // It will be refused in its turn.
      }
    }
    return now;
  }

  /** Resolves once it is stored; rejects with what is wrong with it. */
  add(label: string, intent: Intent): Promise<void> {
    return this.enqueue(this.target.now().id, { label, intent, burst: this.burstOf(label, intent) });
  }

  step(direction: 'undo' | 'redo'): Promise<void> {
    this.burst.at = 0;
    return this.enqueue(this.target.now().id, direction);
  }

  /** Takes up what waited when the page was left. */
  resume(id: string): void {
    const kept = sessionStorage.getItem(keyFor(id));
    if (!kept || this.jobs.some((job) => job.id === id)) return;
    for (const waiting of JSON.parse(kept) as Waiting[]) void this.enqueue(id, waiting).catch(() => undefined);
  }

  /** Tries again at once, as when the server has been seen to answer. */
  retry(): void {
    this.wake?.();
  }

  /** The same for a step that sets the same fields soon after the one before it. */
  private burstOf(label: string, intent: Intent): string {
    const now = performance.now();
    const sets = steps() && intent.every((change) => 'set' in change);
    const name = `${label} ${JSON.stringify(intent.map((change) => change.to))}`;
    const goesOn = sets && this.burst.name === name && now - this.burst.at < BURST_MS;
    this.burst = { name, id: goesOn ? this.burst.id : crypto.randomUUID(), at: now };
    return this.burst.id;
  }

  private enqueue(id: string, waiting: Job['waiting']): Promise<void> {
    return new Promise((done, failed) => {
      this.jobs.push({ id, waiting, done, failed });
      this.tell(id);
      void this.run();
    });
  }

  private async run(): Promise<void> {
    if (this.running) return;
    this.running = true;
    const timer = setTimeout(() => useWaiting.setState({ long: true }), LONG_MS);
    while (this.jobs.length) {
      const [job] = this.jobs as [Job];
      try {
        await this.make(job);
        this.leave(job).done();
      } catch (error) {
        if (isLater(error)) await this.pause(error.fault);
        else this.leave(job).failed(error);
      }
    }
    clearTimeout(timer);
    this.running = false;
    useWaiting.setState({ long: false, why: null });
  }

  private async make({ id, waiting }: Job): Promise<void> {
    const here = this.target.now();
    const { revision, document } = here.id === id && here.revision > 0 ? here : await api.piece(id);
    if (typeof waiting === 'string') return this.target.take(await api[waiting](id, revision));
    const patch: Operation[] = patchFor(document, waiting.intent);
    if (!patch.length) return;
    try {
      await this.target.take(await api.edit(id, revision, waiting.label, patch, waiting.burst));
    } catch (error) {
      // It was made, and only the answer was lost.
      if (!(error instanceof ApiFault) || !error.fault.changes?.some((change) => equal(change.patch, patch)))
        throw error;
      await this.target.reload(id);
    }
  }

  private leave(job: Job): Job {
    this.jobs = this.jobs.filter((other) => other !== job);
    useWaiting.setState({ why: null });
    this.tell(job.id);
    return job;
  }

  private pause(fault: Fault): Promise<void> {
    useWaiting.setState({ why: fault.message, long: true });
    return new Promise((resolve) => {
      const again = () => {
        clearTimeout(timer);
        this.wake = null;
        resolve();
      };
      const timer = setTimeout(again, AGAIN_MS);
      this.wake = again;
    });
  }

  private tell(id: string): void {
    useWaiting.setState({ count: this.jobs.length });
    const kept = this.jobs
      .filter((job) => job.id === id)
      .map((job) => job.waiting)
      .filter((waiting) => typeof waiting !== 'string');
    if (kept.length) sessionStorage.setItem(keyFor(id), JSON.stringify(kept));
    else sessionStorage.removeItem(keyFor(id));
  }
}
