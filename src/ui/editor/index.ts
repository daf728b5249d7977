export { PagesScreen } from './pages-screen';
