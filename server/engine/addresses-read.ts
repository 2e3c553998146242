/** An address of somebody, or a whole domain. */
export const MAILS = /^[^\s@]*@[^\s@.][^\s@]*$/
/** A number as records keep it (E.164). */
export const PHONES = /^\+[1-9]\d{6,14}$/
