export type * from './data';
export { Live, type Picture, type Pictures } from './live';
export { Session, type Told } from './session';
