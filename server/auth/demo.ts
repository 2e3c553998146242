/** Of every account of a demo workspace, and shown on its sign-in page. No other workspace ever has it. */
export const DEMO_PASSWORD = 'walk-in cold room'
