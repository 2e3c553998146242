/** How a request is answered that was not done, as problem details have it (RFC 9457, 3.1). */
export interface Answer {
  /** The status of the answer (RFC 9110, 15). */
  readonly status: number
  readonly title: string
  readonly detail: string
  readonly places?: readonly AnswerPlace[]
}

/** Which part of a request is wrong, and why. */
export interface AnswerPlace {
  readonly path: string
  readonly text: string
}

/** An answer whose one wrong part says it all. */
export const atPlace = (path: string, text: string, title = 'Not saved', status = 422): Answer => ({
  status,
  title,
  detail: text,
  places: [{ path, text }],
})
