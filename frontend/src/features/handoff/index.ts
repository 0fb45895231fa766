export { HandoffPage } from './HandoffPage';
