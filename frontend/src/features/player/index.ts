export { Clock, momentOf } from './clock';
export { Ring, RunBar } from './Ring';
export { seconds } from './ring';
export type { Scene } from './scene';
export { LoopView, pictureOf, PoseView, type Picture } from './SceneView';
export { updateTape, type Tape } from './tape';
