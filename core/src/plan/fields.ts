/* Parts of a plan that a form is drawn from. */
export { abortOutputsField as onAbort } from './abortOutputs'
export { acquisitionField as acquisition } from './acquisition'
export { camerasField as cameras } from './cameras'
export { furtherHazards } from './hazards'
export { movementField as movement } from './movement'
export {
  peopleField as people,
  permitsField as permits,
  readyField as ready,
  capacitiesField as capacities,
} from './plan'
export { restraintField as restraint } from './restraint'
export { similitudeField as similitude } from './similar'
