/* The only place that talks to the server. */
import type { Artwork, ChangeAnswer, Computed, Fault, HandoffReport, NewTake, Operation, Preset, Retimed, ShelfEntry, SpringShape, Takes, TimingReading, Value, WholeAnswer } from './answers';

export class ApiFault extends Error {
  constructor(
    readonly status: number,
    readonly fault: Fault,
  ) {
    super(`${fault.message} ${fault.remedy}`.trim());
  }
}

async function fetched(method: string, path: string, body?: unknown): Promise<Response> {
  let response: Response;
  try {
    response = await fetch(`/api${path}`, {
      method,
      headers: body === undefined || body instanceof Blob ? {} : { 'Content-Type': 'application/json' },
      body: body === undefined ? null : body instanceof Blob ? body : JSON.stringify(body),
    });
  } catch {
    throw new ApiFault(0, {
      kind: 'Offline',
      message: 'The server does not answer.',
      place: '',
      value: null,
      remedy: 'Start it again with make demo.',
    });
  }
  if (response.ok) return response;
  throw new ApiFault(response.status, await faultIn(response));
}

/** What an answer says is wrong; a proxy or a dying server may say it in no words of ours. */
async function faultIn(response: Response): Promise<Fault> {
  try {
    return ((await response.json()) as { error: Fault }).error;
  } catch {
    return { kind: 'Http', message: `The server answered ${response.status}.`, place: '', value: null, remedy: 'Try again.' };
  }
}

const ask = async <T>(method: string, path: string, body?: unknown): Promise<T> => (await (await fetched(method, path, body)).json()) as T;

const at = (id: string) => `/pieces/${encodeURIComponent(id)}`;

export const api = {
  shelf: () => ask<{ pieces: ShelfEntry[] }>('GET', '/pieces'),
  historyOfDamaged: (row: number) => ask<{ history: { revision: number; label: string }[] }>('GET', `/damaged/${row}/history`),
  removeDamaged: (row: number) => ask<{ row: number }>('DELETE', `/damaged/${row}`),
  storedAddress: (row: number) => `/api/damaged/${row}/stored.json`,
  piece: (id: string) => ask<WholeAnswer>('GET', at(id)),
  create: (name: string) => ask<{ id: string }>('POST', '/pieces', { name }),
  duplicate: (id: string) => ask<{ id: string }>('POST', '/pieces', { copy_of: id }),
  remove: (id: string) => ask<{ id: string }>('DELETE', at(id)),
  restore: (id: string) => ask<{ id: string }>('POST', `${at(id)}/restore`),
  retime: (id: string, by: string, value: number) => ask<Retimed>('POST', `${at(id)}/retime`, { by, value }),
  trial: (id: string, patch: Operation[]) => ask<Computed>('POST', `${at(id)}/trial`, { patch }),
  spring: (shape: SpringShape) => ask<{ timing: Preset['timing']; reading: TimingReading; held: string | null }>('POST', '/springs', shape),
  between: (id: string, wish: { from: string; to: string; count: number; easing: string }) => ask<{ steps: Record<string, Record<string, Value>>[] }>('POST', `${at(id)}/between`, wish),
  path: (id: string, layer: string, every_ms: number) => ask<{ points: [number, number][] }>('POST', `${at(id)}/path`, { layer, every_ms }),
  colourAt: (id: string, state: string, x: number, y: number) => ask<{ colour: string }>('POST', `${at(id)}/colour`, { state, x, y }),
  presets: () => ask<{ presets: Preset[] }>('GET', '/presets'),
  keepPreset: (preset: Preset) => ask<{ name: string }>('POST', '/presets', preset),
  dropPreset: (name: string) => ask<{ name: string }>('DELETE', `/presets/${encodeURIComponent(name)}`),
  takes: (id: string) => ask<Takes>('GET', `${at(id)}/takes`),
  keepTake: (id: string, take: NewTake) => ask<{ number: number }>('POST', `${at(id)}/takes`, take),
  dropTake: (id: string, number: number) => ask<{ number: number }>('DELETE', `${at(id)}/takes/${number}`),
  /** The bytes of the file, whatever its encoding: what it says is read by the server alone. */
  intake: async (name: string, svg: Blob) => (await (await fetched('POST', `/intake?name=${encodeURIComponent(name)}`, new Blob([svg], { type: 'image/svg+xml' }))).json()) as Artwork,
  edit: (id: string, revision: number, label: string, patch: Operation[], burst: string) =>
    ask<ChangeAnswer>('PATCH', at(id), { revision, label, patch, burst }),
  revision: (id: string) => ask<{ revision: number }>('GET', `${at(id)}/revision`),
  undo: (id: string, revision: number) => ask<ChangeAnswer>('POST', `${at(id)}/undo`, { revision }),
  redo: (id: string, revision: number) => ask<ChangeAnswer>('POST', `${at(id)}/redo`, { revision }),
  /** The moment `at_ms` of the run, drawn at the size of the piece. */
  frame: async (id: string, at_ms: number, revision: number) => createImageBitmap(await (await fetched('GET', `${at(id)}/picture.png?at=${at_ms.toFixed(2)}&revision=${revision}`)).blob()),
  stateAddress: (id: string, state: string, scale: number, revision: number) => `/api${at(id)}/picture.png?state=${encodeURIComponent(state)}&scale=${scale.toFixed(4)}&revision=${revision}`,
  filmstripAddress: (id: string, frames: number, revision: number) => `/api${at(id)}/filmstrip.png?frames=${frames}&revision=${revision}`,
  handoffs: (id: string) => ask<{ formats: HandoffReport[] }>('GET', `${at(id)}/handoff`),
  handoffAddress: (id: string, format: string) => `/api${at(id)}/handoff/${format}`,
};
