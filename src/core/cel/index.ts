export {
  compileCel,
  parseCel,
  swapped,
  typeOfCel,
  walkCel,
  type CelError,
  type CelType,
  type CelValue,
  type Swap,
} from './language';
