/**
 * The ways to the workers that pack and open pictures for this one. The page begins them, and ends them with it: in Firefox a
 * worker that begins others now and then stands still for ever where it does so while others are ended.
 */
export const helperPorts: MessagePort[] = [];
