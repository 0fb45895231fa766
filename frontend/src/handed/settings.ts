/* What sets parameters and traits, for pages and modules of pieces that have some. */
import { played, read } from '../runtime/settings';

Object.assign(globalThis, { settable: { played, read } });
