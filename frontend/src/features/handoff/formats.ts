/* The formats as the page offers them: by who reads them. */

export interface Offered {
  name: string;
  title: string;
  holds: string;
  /** Made of pictures: how many a second, and how large, may be chosen. */
  fps?: number;
  /** Has few colours, and can mix others out of dots. */
  dithers?: boolean;
  /** One picture, of a moment that may be chosen. */
  still?: boolean;
  /** Can be played by others, and held against what is computed. */
  measured?: boolean;
  /** Plays a rehearsal as well as what happens by itself. */
  acted?: boolean;
}

export const GROUPS: readonly { title: string; formats: readonly Offered[] }[] = [
  {
    title: 'To look at',
    formats: [
      {
        name: 'html',
        measured: true,
        title: 'Web page',
        acted: true,
        holds:
          'One HTML file without script: CSS keyframes, springs as linear(), fonts inside, and a calmer version for people who ask for less motion.',
      },
      {
        name: 'svg',
        measured: true,
        title: 'SVG',
        acted: true,
        holds:
          'One SVG file that moves in browsers by itself, also inside of <img>: the same elements as the web page.',
      },
      {
        name: 'webm',
        measured: true,
        title: 'Video',
        holds: 'WebM with VP9, which browsers play; what is transparent stays so.',
        fps: 60,
        acted: true,
      },
      {
        name: 'gif',
        measured: true,
        title: 'GIF',
        holds: 'For mails and chats: few colours, and each pixel seen or not.',
        fps: 25,
        dithers: true,
        acted: true,
      },
      {
        name: 'webp',
        measured: true,
        title: 'Animated WebP',
        holds: 'Exact colours and transparency, without loss.',
        fps: 30,
        acted: true,
      },
      {
        name: 'apng',
        measured: true,
        title: 'Animated PNG',
        holds: 'Exact colours and transparency, without loss.',
        fps: 30,
        acted: true,
      },
      {
        name: 'still',
        title: 'Still picture',
        holds: 'One PNG: a poster of the piece, or any moment of it.',
        still: true,
        acted: true,
      },
    ],
  },
  {
    title: 'To build with',
    formats: [
      {
        name: 'live',
        title: 'Live page',
        holds:
          'One HTML file that answers to pointer, touch and keys, with everything inside, and a calmer version. Its element can be told to go to a state.',
      },
      {
        name: 'element',
        measured: true,
        title: 'Custom element',
        holds:
          'One module without dependencies, with its types: attributes and properties for the state, events for what it does, methods to go, play, pause and seek.',
      },
      {
        name: 'react',
        title: 'React component',
        holds:
          'Strict TypeScript around the custom element: props for the state, a callback, a ref with the same methods.',
      },
      {
        name: 'css',
        measured: true,
        title: 'CSS and markup',
        acted: true,
        holds:
          'One stylesheet and one fragment, named after the piece and its layers: it plays by itself, or goes to the state that data-state says; springs are custom properties.',
      },
      {
        name: 'animate',
        measured: true,
        title: 'Web Animations',
        acted: true,
        holds: 'One typed function that takes elements of your own, and gives back animations to play, pause and seek.',
      },
      {
        name: 'lottie',
        measured: true,
        title: 'Lottie',
        acted: true,
        holds:
          'One JSON file for players of apps on phones: shapes, transforms and keyframes; texts as outlines, each state as a marker.',
      },
      {
        name: 'sprite',
        title: 'Sprite sheet',
        holds: 'All frames on one PNG, and a JSON file that says where each is and when.',
        fps: 30,
        acted: true,
      },
      {
        name: 'tokens',
        title: 'Design tokens',
        holds: 'Durations, curves and transitions as DTCG; springs as an extension, with their linear().',
      },
    ],
  },
  {
    title: 'To read',
    formats: [
      {
        name: 'sheet',
        title: 'Timing sheet',
        holds: 'Every transition, lane by lane: a page to print, CSV and Markdown.',
      },
      { name: 'tape', title: 'Tape', holds: 'The computed values of all transitions for other players, as JSON and in few bytes.' }, // prettier-ignore
    ],
  },
];

export interface Chosen {
  fps: number | null;
  scale: number;
  /** A colour behind the piece; none for its own. */
  ground: string;
  dither: boolean;
  /** ms of one picture; null for where most is seen. */
  at: number | null;
  /** The rehearsal that is played; none for what happens by itself. */
  of: string;
}

export const AS_IT_IS: Chosen = { fps: null, scale: 1, ground: '', dither: false, at: null, of: '' };

export const isDrawn = ({ fps, still }: Offered) => fps !== undefined || still === true;

/** As the server is asked; what is as usual, or not of this format, is left out. */
export function asked(format: Offered, { fps, scale, ground, dither, at, of }: Chosen): Record<string, string> {
  const ofPictures = {
    ...(format.still || fps === null ? {} : { fps: String(fps) }),
    ...(format.still && at !== null ? { at: String(at) } : {}),
    ...(scale === 1 ? {} : { scale: String(scale) }),
    ...(ground ? { ground } : {}),
    ...(format.dithers && dither ? { dither: '1' } : {}),
  };
  return { ...(isDrawn(format) ? ofPictures : {}), ...(format.acted && of ? { of } : {}) };
}
