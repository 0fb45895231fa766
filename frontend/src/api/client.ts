/* The only place that talks to the server. */
import type { Artwork, ChangeAnswer, Computed, Fault, NewTake, Operation, Preset, Retimed, SpringShape, Takes, TimingReading, Value, WholeAnswer } from './answers';

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
      headers: body === undefined ? {} : { 'Content-Type': 'application/json' },
      body: body === undefined ? null : JSON.stringify(body),
    });
  } catch {
    throw new ApiFault(0, {
      kind: 'Offline',
      message: 'The server does not answer.',
      place: '',
      value: null,
      remedy: 'Start it again with make demo, then try once more; what you typed is kept.',
    });
  }
  if (response.ok) return response;
  const { error } = (await response.json()) as { error: Fault };
  throw new ApiFault(response.status, error);
}

const ask = async <T>(method: string, path: string, body?: unknown): Promise<T> => (await (await fetched(method, path, body)).json()) as T;

const at = (id: string) => `/pieces/${encodeURIComponent(id)}`;

export const api = {
  shelf: () => ask<{ pieces: WholeAnswer[] }>('GET', '/pieces'),
  piece: (id: string) => ask<WholeAnswer>('GET', at(id)),
  create: (name: string) => ask<{ id: string }>('POST', '/pieces', { name }),
  duplicate: (id: string) => ask<{ id: string }>('POST', '/pieces', { copy_of: id }),
  remove: (id: string) => ask<{ id: string }>('DELETE', at(id)),
  restore: (id: string) => ask<{ id: string }>('POST', `${at(id)}/restore`),
  retime: (id: string, by: string, value: number) => ask<Retimed>('POST', `${at(id)}/retime`, { by, value }),
  trial: (id: string, patch: Operation[]) => ask<Computed>('POST', `${at(id)}/trial`, { patch }),
  spring: (shape: SpringShape) => ask<{ timing: Preset['timing']; reading: TimingReading }>('POST', '/springs', shape),
  between: (id: string, wish: { from: string; to: string; count: number; easing: string }) => ask<{ steps: Record<string, Record<string, Value>>[] }>('POST', `${at(id)}/between`, wish),
  path: (id: string, layer: string, every_ms: number) => ask<{ points: [number, number][] }>('POST', `${at(id)}/path`, { layer, every_ms }),
  colourAt: (id: string, state: string, x: number, y: number) => ask<{ colour: string }>('POST', `${at(id)}/colour`, { state, x, y }),
  presets: () => ask<{ presets: Preset[] }>('GET', '/presets'),
  keepPreset: (preset: Preset) => ask<{ name: string }>('POST', '/presets', preset),
  dropPreset: (name: string) => ask<{ name: string }>('DELETE', `/presets/${encodeURIComponent(name)}`),
  takes: (id: string) => ask<Takes>('GET', `${at(id)}/takes`),
  keepTake: (id: string, take: NewTake) => ask<{ number: number }>('POST', `${at(id)}/takes`, take),
  dropTake: (id: string, number: number) => ask<{ number: number }>('DELETE', `${at(id)}/takes/${number}`),
  intake: (name: string, svg: string) => ask<Artwork>('POST', '/intake', { name, svg }),
  edit: (id: string, revision: number, label: string, patch: Operation[]) =>
    ask<ChangeAnswer>('PATCH', at(id), { revision, label, patch }),
  undo: (id: string, revision: number) => ask<ChangeAnswer>('POST', `${at(id)}/undo`, { revision }),
  redo: (id: string, revision: number) => ask<ChangeAnswer>('POST', `${at(id)}/redo`, { revision }),
  /** The moment `at_ms` of the run, drawn at the size of the piece. */
  frame: async (id: string, at_ms: number, revision: number) => createImageBitmap(await (await fetched('GET', `${at(id)}/picture.png?at=${at_ms.toFixed(2)}&revision=${revision}`)).blob()),
  stateAddress: (id: string, state: string, scale: number, revision: number) => `/api${at(id)}/picture.png?state=${encodeURIComponent(state)}&scale=${scale.toFixed(4)}&revision=${revision}`,
  filmstripAddress: (id: string, frames: number, revision: number) => `/api${at(id)}/filmstrip.png?frames=${frames}&revision=${revision}`,
  handoffAddress: (id: string, format: string) => `/api${at(id)}/handoff/${format}`,
};
