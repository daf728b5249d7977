export { carriedBy, type Bus, type Carried, type Tri } from './carried';
export { readingsForTally, tallyOf, type Tally, type TallySources } from './tally';
export { wordOf, type TallyWord } from './word';
