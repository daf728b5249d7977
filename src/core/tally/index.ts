export { carriedBy, outputsOf, type Bus, type Tri } from './carried';
export { displayParams, displaysOf, readingsForNames, type DisplayNow } from './displays';
export { TallyNetwork, tallyOf, type Tally } from './tally';
export { wordOf, type TallyWord } from './word';
