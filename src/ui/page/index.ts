export { LivePage } from './live-page';
export { PageGrid } from './page-grid';
export { useHand } from './use-hand';
