export { AnswerSeries, shortSpanMs, sumOf, type AnswerSpan, type AnswerSum } from './answer-series';
export { Spread } from './spread';
export {
  computerConcerns,
  deviceConcerns,
  isLost,
  screenConcerns,
  type ComputerFacts,
  type Concern,
  type DeviceFacts,
  type ScreenFacts,
} from './concerns';
export {
  incidentSchema,
  noIncidents,
  seeIncident,
  stepIncidents,
  type Incident,
  type IncidentState,
} from './incidents';
