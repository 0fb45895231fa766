import { later } from '../../shared/ui/later';
export { Clock, momentOf, type Look } from './clock';
export { showFonts } from './fontFaces';
export { Ring } from './Ring';
export { seconds } from './ring';
export { RunBar } from './RunBar';
export { outlineOf } from './outline';
export { variationOf, type Scene } from './scene';
export { LoopView, pictureOf, sheetOf, PoseView, type Picture } from './SceneView';
export { knotsOf, readTrack, unpack, updateTape, type Tape, type Track } from './tape';
export { valueOf } from './values';
/** With the runtime, which most views do not need at once. */
export const UsedPiece = later(async () => (await import('./UsedPiece')).UsedPiece);
export { waysRun } from './waysRun';
export { endFilm, isDecodable, openFilmsBy, showFilm } from './films';
export { reelOf } from './reels';
export { loadLottieBy } from './lotties';
