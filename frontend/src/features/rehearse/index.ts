export { RehearsePage } from './RehearsePage';
