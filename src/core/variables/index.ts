export { changed, firstValue, fitting } from './change';
export { changeVariableEdit, newVariableEdit, removeVariableEdit, usualValue, variablesOf } from './edits';
