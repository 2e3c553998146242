/** The heading over the ids of records, by which a file of ours is known and every row finds its record again. */
export const ID_HEADING = 'Sky Lever ID'
/** However its letters are written: older files have them small. */
export const isIdHeading = (heading: string): boolean => heading.toLowerCase() === ID_HEADING.toLowerCase()

/** What a spreadsheet would take for a formula. */
const FORMULA = /^'*[=+\-@\t\r]/
/** Puts a mark before a text that a spreadsheet would run; `uncover` takes it away. */
export const cover = (text: string): string => (FORMULA.test(text) ? `'${text}` : text)
export const uncover = (text: string): string => (text.startsWith("'") && FORMULA.test(text) ? text.slice(1) : text)
