export { PagesScreen } from './pages-screen';
export { ParamField } from './param-field';
export { PayloadField } from './payload-field';
export { SheetScreen } from './sheet-screen';
