export { Clock, momentOf } from './clock';
export { Ring, RunBar } from './Ring';
export { seconds } from './ring';
export type { Scene } from './scene';
export { LoopView, PoseView } from './SceneView';
export { updateTape, type Tape } from './tape';
