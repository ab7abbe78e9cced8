// @ts-check
// What a task is called by where it came from: shown only where there is something to show.
import { textField } from "../card/fields.js";
import { textFact } from "./facts.js";

export const sourceId = textFact({
  key: "sourceId",
  label: "Source id",
  width: 96,
  // It is for programs: nobody wants to hear it with each row.
  said: undefined,
  card: (card, send) =>
    card.sourceId
      ? textField("Source id", card.sourceId, (text, tell) =>
          send({ type: "setSourceId", task: card.id, sourceId: text.trim() || null }, tell),
        )
      : null,
});
