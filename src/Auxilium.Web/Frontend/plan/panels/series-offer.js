// @ts-check
// A series that stops before its project does is offered to go on.

/** @import { Store } from "../state/store.js" */
import { dayOf, short } from "../state/time.js";

/** The offer to let a repeating task go on, where its project runs past it. @param {Store} store */
export function offerOf(store) {
  const [stop] = store.project.stops;
  if (!stop) return null;
  const finish = dayOf(store.project.finish - 1);
  return {
    name: stop.name,
    text: `${stop.name} stops on ${stop.last}, and the project runs on to ${short(finish)}: ${stop.more} more.`,
    edit: { type: "extendSeries", task: stop.task },
    task: stop.task,
  };
}
