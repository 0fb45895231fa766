/* The only place that talks to the server. */
import type {
  Artwork,
  FontTaken,
  MediumFacts,
  SharedFiles,
  SharedFonts,
  BetweenStates,
  ChangeAnswer,
  Colour,
  Computed,
  Failure,
  Fault,
  FittedSpring,
  HandoffMeasured,
  HandoffReport,
  Handoffs,
  History,
  JobTold,
  Link,
  Made,
  Named,
  NewPiece,
  NewRehearsal,
  NewTake,
  Numbered,
  Operation,
  Parameters,
  PathOf,
  GraphFor,
  GraphOf,
  Points,
  PresetName,
  Preset,
  Presets,
  MadeOfGroup,
  Retimed,
  Retiming,
  TriedValues,
  Rehearsals,
  Revision,
  Row,
  Shelf,
  Shelved,
  SpringShape,
  Steps,
  Takes,
  WholeAnswer,
} from './contract';
import { answerIn, knownParts } from './parts';

export class ApiFault extends Error {
  constructor(
    readonly status: number,
    readonly fault: Fault,
  ) {
    super(`${fault.message} ${fault.remedy}`.trim());
  }
}

async function fetched(method: string, path: string, body?: unknown, known = knownParts()): Promise<Response> {
  let response: Response;
  try {
    response = await fetch(`/api${path}`, {
      method,
      headers: {
        ...(body !== undefined && !(body instanceof Blob) && { 'Content-Type': 'application/json' }),
        ...known,
      },
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
    return ((await answerIn(response)) as Failure).error;
  } catch {
    return {
      kind: 'Http',
      message: `The server answered ${response.status}.`,
      place: '',
      value: null,
      remedy: 'Try again.',
    };
  }
}

const ask = async <T>(method: string, path: string, body?: unknown): Promise<T> =>
  (await answerIn(await fetched(method, path, body))) as T;

const at = (id: string) => `/pieces/${encodeURIComponent(id)}`;

export const api = {
  shelf: () => ask<Shelf>('GET', '/pieces'),
  historyOfDamaged: (row: number) => ask<History>('GET', `/damaged/${row}/history`),
  removeDamaged: (row: number) => ask<Row>('DELETE', `/damaged/${row}`),
  storedAddress: (row: number) => `/api/damaged/${row}/stored.json`,
  /** With options of traits it is as it looks with them instead of its own. */
  piece: (id: string, shows = '') =>
    ask<WholeAnswer>('GET', shows ? `${at(id)}?shows=${encodeURIComponent(shows)}` : at(id)),
  pieceAddress: (id: string) => `/api${at(id)}/piece.json`,
  addDocument: (document: Record<string, unknown>) =>
    ask<Made>('POST', '/pieces', { document: document as unknown as NewPiece['document'] } satisfies NewPiece),
  create: (name: string, size: Pick<NewPiece, 'width' | 'height' | 'safe_area'> = {}) =>
    ask<Made>('POST', '/pieces', { name, ...size } satisfies NewPiece),
  createFrom: (name: string, starter: NewPiece['starter']) =>
    ask<Made>('POST', '/pieces', { name, starter } satisfies NewPiece),
  duplicate: (id: string, name: string | null = null) =>
    ask<Made>('POST', '/pieces', { copy_of: id, name } satisfies NewPiece),
  collectionAddress: '/api/collection',
  /** A zip of pieces. */
  addCollection: async (zip: Blob) =>
    (await answerIn(await fetched('POST', '/collection', new Blob([zip], { type: 'application/zip' })))) as Shelved,
  remove: (id: string) => ask<Made>('DELETE', at(id)),
  restore: (id: string) => ask<Made>('POST', `${at(id)}/restore`),
  plainLayers: (id: string, layer: string) => ask<Retimed>('POST', `${at(id)}/plain`, { layer }),
  textAsPath: (id: string, layer: string) => ask<Retimed>('POST', `${at(id)}/text-as-path`, { layer }),
  pieceOfGroup: (id: string, layer: string) => ask<MadeOfGroup>('POST', `${at(id)}/piece-of-group`, { layer }),
  parameters: (id: string) => ask<Parameters>('GET', `${at(id)}/parameters`),
  tryValues: (id: string, values: TriedValues['values']) => ask<Retimed>('POST', `${at(id)}/values`, { values }),
  retime: (id: string, wish: Retiming) => ask<Retimed>('POST', `${at(id)}/retime`, wish),
  trial: (id: string, patch: Operation[]) => ask<Computed>('POST', `${at(id)}/trial`, { patch }),
  spring: (shape: SpringShape) => ask<FittedSpring>('POST', '/springs', shape),
  between: (id: string, wish: BetweenStates) => ask<Steps>('POST', `${at(id)}/between`, wish),
  graph: (id: string, wish: GraphFor) => ask<GraphOf>('POST', `${at(id)}/graph`, wish),
  path: (id: string, wish: PathOf) => ask<Points>('POST', `${at(id)}/path`, wish),
  colourAt: (id: string, state: string, x: number, y: number) =>
    ask<Colour>('POST', `${at(id)}/colour`, { state, x, y }),
  presets: () => ask<Presets>('GET', '/presets'),
  keepPreset: (preset: Preset) => ask<Named>('POST', '/presets', preset),
  dropPreset: (name: string) => ask<Named>('DELETE', '/presets', { name } satisfies PresetName),
  takes: (id: string) => ask<Takes>('GET', `${at(id)}/takes`),
  keepTake: (id: string, take: NewTake) => ask<Numbered>('POST', `${at(id)}/takes`, take),
  renameTake: (id: string, number: number, name: string) =>
    ask<Numbered>('PATCH', `${at(id)}/takes/${number}`, { name }),
  restoreTake: (id: string, number: number) => ask<Numbered>('POST', `${at(id)}/takes/${number}/restore`),
  dropTake: (id: string, number: number) => ask<Numbered>('DELETE', `${at(id)}/takes/${number}`),
  rehearsals: (id: string) => ask<Rehearsals>('GET', `${at(id)}/rehearsals`),
  rehearsalStrip: (id: string, which: string) => `/api${at(id)}/rehearsals/${which}/filmstrip.png`,
  keepRehearsal: (id: string, kept: NewRehearsal) => ask<Numbered>('POST', `${at(id)}/rehearsals`, kept),
  dropRehearsal: (id: string, number: number) => ask<Numbered>('DELETE', `${at(id)}/rehearsals/${number}`),
  /** The bytes of the file, whatever its encoding: what it says is read by the server alone. */
  intake: async (name: string, svg: Blob) =>
    (await answerIn(
      await fetched('POST', `/intake?name=${encodeURIComponent(name)}`, new Blob([svg], { type: 'image/svg+xml' })),
    )) as Artwork,
  /** How large a medium is, and how long it plays. */
  mediumFacts: async (file: Blob) =>
    (await answerIn(await fetched('POST', '/intake/medium', new Blob([file])))) as MediumFacts,
  /** A font as a document holds it. */
  takeFont: async (file: Blob) =>
    (await answerIn(await fetched('POST', '/intake/font', new Blob([file])))) as FontTaken,
  sharedFonts: () => ask<SharedFonts>('GET', '/fonts'),
  fontFiles: (id: string, family: string) =>
    ask<SharedFiles>('GET', `/fonts/${id}?${new URLSearchParams({ family }).toString()}`),
  edit: (id: string, revision: number, label: string, patch: Operation[], burst: string) =>
    ask<ChangeAnswer>('PATCH', at(id), { revision, label, patch, burst }),
  revision: (id: string) => ask<Revision>('GET', `${at(id)}/revision`),
  undo: (id: string, revision: number) => ask<ChangeAnswer>('POST', `${at(id)}/undo`, { revision }),
  redo: (id: string, revision: number) => ask<ChangeAnswer>('POST', `${at(id)}/redo`, { revision }),
  /** The moment `at_ms` of the run, drawn at the size of the piece. */
  frame: async (id: string, at_ms: number, revision: number) =>
    createImageBitmap(
      await (await fetched('GET', `${at(id)}/picture.png?at=${at_ms.toFixed(2)}&revision=${revision}`)).blob(),
    ),
  stateAddress: (id: string, state: string, scale: number, version: string) =>
    `/api${at(id)}/picture.png?state=${encodeURIComponent(state)}&scale=${scale.toFixed(4)}&revision=${encodeURIComponent(version)}`,
  filmstripAddress: (id: string, revision: number, strip: Record<string, string | number>) =>
    `/api${at(id)}/filmstrip.png?${new URLSearchParams({ ...strip, revision } as unknown as Record<string, string>).toString()}`,
  link: (id: string) => ask<Link>('GET', `${at(id)}/link`),
  makeLink: (id: string) => ask<Link>('POST', `${at(id)}/link`),
  takeLinkBack: (id: string) => ask<Link>('DELETE', `${at(id)}/link`),
  handoffs: (id: string) => ask<Handoffs>('GET', `${at(id)}/handoff`),
  handoff: (id: string, format: string, options: Record<string, string>) =>
    ask<HandoffReport>('GET', `${at(id)}/handoff/${format}/report?${new URLSearchParams(options).toString()}`),
  beginFiles: (id: string, format: string, options: Record<string, string>) =>
    ask<JobTold>('POST', `${at(id)}/handoff/${format}/job?${new URLSearchParams(options).toString()}`),
  beginMeasuring: (id: string, format: string, options: Record<string, string>) =>
    ask<JobTold>('POST', `${at(id)}/handoff/${format}/measured?${new URLSearchParams(options).toString()}`),
  beginAll: (id: string, options: Record<string, string>) =>
    ask<JobTold>('POST', `${at(id)}/handoff/all.zip?${new URLSearchParams(options).toString()}`),
  job: (job: string) => ask<JobTold>('GET', `/jobs/${job}`),
  stopJob: (job: string) => ask<JobTold>('DELETE', `/jobs/${job}`),
  measured: (id: string, format: string, options: Record<string, string>) =>
    ask<HandoffMeasured>('GET', `${at(id)}/handoff/${format}/measured?${new URLSearchParams(options).toString()}`),
  handoffAddress: (id: string, format: string, options: Record<string, string>) =>
    `/api${at(id)}/handoff/${format}?${new URLSearchParams(options).toString()}`,
  allAddress: (id: string) => `/api${at(id)}/handoff/all.zip`,
  /** One file of a format, to be looked at. */
  handedAddress: (id: string, format: string, ending: string, version: string, options: Record<string, string>) =>
    `/api${at(id)}/handoff/${format}/${ending}?${new URLSearchParams({ ...options, version }).toString()}`,
  handedFile: async (address: string) => (await fetched('GET', address.slice('/api'.length))).blob(),
  /** The file as it is, with nothing named by a digest. */
  handedText: async (address: string) => (await fetched('GET', address.slice('/api'.length), undefined, {})).text(),
};
