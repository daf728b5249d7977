export { LearnBar } from './learn-bar';
export { useGear } from './use-gear';
