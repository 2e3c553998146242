// Every table, for the connection and for making migrations; whoever needs one takes it from its own file.
export * from './catalogue'
export * from './imports'
export * from './records'
export * from './rules'
export * from './outside'
export * from './runs'
export * from './watch'
