export { WorkbenchPage } from './WorkbenchPage';
