/** Bundles a TypeScript entry with the core and the server into one file that runs on plain Node. */
export declare function bundle(entry: string, outfile: string): Promise<void>
