export { Clock, momentOf, type Look } from './clock';
export { Ring } from './Ring';
export { seconds } from './ring';
export { RunBar } from './RunBar';
export type { Scene } from './scene';
export { LoopView, pictureOf, PoseView, type Picture } from './SceneView';
export { knotsOf, updateTape, type Tape } from './tape';
export { UsedPiece } from './UsedPiece';
export { waysRun } from './waysRun';
