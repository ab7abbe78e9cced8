// @ts-check
// Shapes of what the server sends. Times are whole minutes since 0001-01-01T00:00 on the organisation's wall clock.

/**
 * @typedef {object} Row
 * @property {string} id
 * @property {string} no outline number; empty while the row is not saved
 * @property {string} name
 * @property {number} level
 * @property {string | null} parent
 * @property {"task" | "milestone" | "phase"} kind
 * @property {string} length
 * @property {string | null} owner
 * @property {number} helpers
 * @property {string | null} with ids of those who help, with a blank between
 * @property {string} after
 * @property {number | null} start null while the row is not saved, and when it takes no part
 * @property {number} finish
 * @property {number | null} doneTo null when nothing is done
 * @property {number | null} lateFinish
 * @property {string | null} spare
 * @property {number} progress
 * @property {boolean} critical
 * @property {string | null} state
 * @property {boolean} started
 * @property {string | null} waitsFor
 * @property {string | null} fixed
 * @property {boolean} pinned
 * @property {"before" | "behind" | "both" | "level" | null} fixedSides where brackets stand around the date
 * @property {string | null} warning
 * @property {string | null} stretches minutes at which work begins and pauses in turn, where it pauses
 * @property {number | null} deadline
 * @property {boolean} off whether it takes no part
 * @property {boolean} note whether it has a note
 * @property {boolean} key whether it is one of those that matter most
 * @property {string | null} colour
 * @property {string | null} label
 * @property {string | null} deliveredBy who outside the project delivers it
 * @property {string | null} role as what somebody does it
 * @property {string | null} sourceId what it is called where it came from
 * @property {string | null} serves id of the milestone that it serves
 * @property {number} priority 0 to 1000, 500 is usual
 * @property {Record<string, string> | null} own what it has of the fields that people added, by their ids
 * @property {string | null} steps how far its checklist is: "1 of 3"
 * @property {number} references how many pages belong to it
 * @property {string | null} repeats when it comes again, of a phase of occurrences
 * @property {number | null} plannedStart when the measure has it start
 * @property {number | null} plannedFinish
 * @property {number} drift working minutes by which it finishes later than that
 * @property {string | null} driftSaid the same in words: "2 days later"
 * @property {number} effort minutes of work of all its people
 * @property {string | null} ownEffort as it was typed, where it does not follow from its length
 * @property {number} gathers how many tasks serve it, of a milestone
 * @property {number} gathersLeft how many of them are not done
 * @property {boolean} [heading] whether it is no row of the plan, but stands above a group
 * @property {boolean} [unsaved]
 */

/**
 * A field that people added.
 * @typedef {object} OwnField
 * @property {string} id
 * @property {string} name
 * @property {"text" | "number" | "amount" | "date" | "yesNo" | "choice"} kind
 * @property {string | null} unit
 * @property {boolean} shared whether all projects have it
 * @property {boolean} retired
 * @property {boolean} ofProject whether it is a fact of the project itself
 * @property {string | null} value what the project has in it
 * @property {{ id: string, name: string, colour: string | null }[]} choices
 */

/** @typedef {"finishToStart" | "startToStart" | "finishToFinish" | "startToFinish"} LinkKind */
/** @typedef {{ from: string, to: string, kind: LinkKind, setsFinish: boolean }} Link */
/** @typedef {{ id: string, name: string, initials: string, hue: number }} Person */
/** @typedef {{ from: number, to: number, name: string | null }} Closed */
/** @typedef {{ text: string, strong: boolean }} Run */
/** Hours worked on a row. @typedef {{ task: string, minutes: number, share: number | null, isEating: boolean, said: string }} Used */

/**
 * @typedef {object} Project
 * @property {string} name
 * @property {number} version
 * @property {string | null} edit id of the edit that made this version; null for the first
 * @property {number} start
 * @property {number} finish
 * @property {boolean} fromFinish whether dates go back from the finish
 * @property {number | null} finishBy
 * @property {string | null} spare
 * @property {boolean} isLate
 * @property {number | null} fromToday when it finishes if what is left starts today, where unfinished work lies in the past
 * @property {string | null} spareFromToday
 * @property {number} today
 * @property {number} progress
 * @property {number} dayStart
 * @property {number} dayEnd
 * @property {{ id: string, name: string, taken: string, whole: boolean, rows: number, finish: number }[]} baselines
 * @property {string | null} measure id of the baseline that drift is measured against
 * @property {{ name: string, from: number, to: number }[]} periods stretches of days with a name
 * @property {OwnField[]} [fields] that people added
 * @property {{ task: string, name: string, last: string, more: number }[]} stops repeating tasks that end before the project does
 */

/**
 * @typedef {object} Changes
 * @property {Project} project
 * @property {(Partial<Row> & { id: string })[]} rows new ones whole, of others what has changed
 * @property {{ version: number, edit: string | null } | null} from the version that this leads on from, and no other; null when every row
 * is told, so that what a row does not say is as usual
 * @property {string[] | null} order
 * @property {{ from: string, to: string, kind: LinkKind }[] | null} links
 * @property {number[] | null} finishLinks positions of the links that set the finish
 * @property {Person[] | null} people
 * @property {Closed[] | null} closed
 * @property {boolean} canUndo
 * @property {boolean} canRedo
 * @property {Run[]} sentence
 * @property {number} moved how many tasks the newest edit moved
 */

/**
 * @typedef
 * {{ task: string, startBefore: string, finishBefore: string, startAfter: string, finishAfter: string, shift: string, why: string }} Move
 */
/**
 * @typedef {object} Ripple
 * @property {Run[]} sentence
 * @property {Move[]} moves
 * @property {string[]} newWarnings
 * @property {string[]} goneWarnings
 * @property {{ task: string, minutesBefore: number, minutesAfter: number }[]} deadlines
 * @property {string[]} path ids of the tasks that set the finish, from the first to the last
 * @property {boolean} pathChanged
 */

/** @typedef {{ task: string, outline: string, name: string, kind: LinkKind, lag: string, elapsed: boolean, text: string }} CardLink */

/**
 * @typedef
 * {{ text: string, every: string, interval: number, on: string[], week: number | null, from: string,
 *   until: string | null, times: number | null, length: string, closed: string, made: string, count: number }}
 * CardRepeat
 */

/**
 * @typedef {object} Card
 * @property {number} version of the plan that it tells of
 * @property {string} id
 * @property {string} outline
 * @property {string} name
 * @property {"task" | "milestone" | "phase"} kind
 * @property {boolean} active
 * @property {string} length
 * @property {string | null} start
 * @property {string | null} finish
 * @property {Record<string, string> | null} [own] what it has of the fields that people added
 * @property {string | null} sourceId
 * @property {CardLink[]} before
 * @property {CardLink[]} after
 * @property {string | null} fixedKind
 * @property {string | null} fixedDate
 * @property {string | null} pinnedFinish
 * @property {string | null} deadline
 * @property {string | null} calendar
 * @property {boolean} aroundTheClock
 * @property {{ after: string, for: string }[]} splits
 * @property {{ low: string, likely: string, high: string } | null} estimate
 * @property {number} progress
 * @property {string | null} actualStart
 * @property {string | null} actualFinish
 * @property {string | null} remaining
 * @property {string | null} totalFloat
 * @property {string | null} freeFloat
 * @property {{ sentence: string }[]} why
 * @property {string} whyFinish
 * @property {string[]} warnings
 * @property {{ id: string, name: string, share: number, effort: string | null }[]} people the owner first
 * @property {"shorter" | "moreEffort" | null} hands
 * @property {string | null} effort as it was typed, where it does not follow from length and shares
 * @property {number | null} effortHours
 * @property {string[]} away
 * @property {string} note
 * @property {boolean} key
 * @property {string | null} colour
 * @property {string | null} label
 * @property {number} priority
 * @property {string | null} serves id of the milestone that it serves
 * @property {{ days: number, before: "start" | "finish", people: string[] }[]} reminders
 * @property {{ text: string, done: boolean }[]} checklist
 * @property {{ address: string, title: string }[]} references
 * @property {CardRepeat | null} repeats
 * @property {boolean} inSeries whether it is an occurrence of a repeating task
 * @property {{ id: string, name: string }[]} calendars
 */

/** A cell whose text is on its way or was refused.
 * @typedef {object} Draft
 * @property {string} text
 * @property {string} [problem]
 * @property {boolean} [saving]
 * @property {{ theirs: string, yours: string, by: string, resend: () => void }} [conflict]
 */

export {};
