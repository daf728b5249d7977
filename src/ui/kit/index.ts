export { CommitInput } from './commit-input';
export { Picker } from './picker';
export { Theirs } from './theirs';
export { useTyped } from './use-typed';
