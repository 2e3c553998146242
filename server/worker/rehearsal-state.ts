export type RehearsalState = 'running' | 'done' | 'stopped' | 'failed'
