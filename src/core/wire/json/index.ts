export { atPointer, jsonText, parseJson, type Json } from './codec';
