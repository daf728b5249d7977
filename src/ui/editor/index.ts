export { ConditionFields } from './condition-fields';
export { PagesScreen } from './pages-screen';
export { SheetScreen } from './sheet-screen';
