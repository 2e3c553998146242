/** Where this workspace is found from outside, without a slash at its end. */
export const baseOf = (): string => (process.env.SKY_LEVER_URL ?? 'http://localhost:3000').replace(/\/+$/, '')
