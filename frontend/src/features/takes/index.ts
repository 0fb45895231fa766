export { TakesPage } from './TakesPage';
