import { spawn } from 'node:child_process'
import { createInterface } from 'node:readline'

/** Runs a child until it is killed so long after it says that it is ready, or to its end; `hear` gets what it says. */
export function runChild(
  file: string,
  args: readonly string[],
  killAfterMs: number | null,
  hear: (line: string) => void = () => undefined,
): Promise<void> {
  return new Promise((resolve, reject) => {
    const child = spawn('node', [file, ...args], { stdio: ['ignore', 'pipe', 'pipe'] })
    let complaint = ''
    createInterface({ input: child.stdout }).on('line', (line) => {
      hear(line)
      if (line === 'ready' && killAfterMs !== null) setTimeout(() => child.kill('SIGKILL'), killAfterMs)
    })
    child.stderr.on('data', (part: Buffer) => {
      complaint += part.toString()
    })
    child.on('error', reject)
    child.on('close', (code, signal) =>
      signal === 'SIGKILL' || code === 0
        ? resolve()
        : reject(new Error(`the child ended with ${code}: ${complaint.slice(-2000)}`)),
    )
  })
}
