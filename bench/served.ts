import { spawn } from 'node:child_process'

export type Call = (method: string, path: string, body?: object) => Promise<Record<string, unknown>>
/** How long a page took, in milliseconds, until its last byte was there. */
export type Look = (path: string) => Promise<number>

/** Starts the built server over a database of a demo, signs in, and lets `work` ask it; stops it whatever happens. */
export async function withServer<T>(
  port: string,
  dbFile: string,
  work: (call: Call, look: Look) => Promise<T>,
): Promise<T> {
  const root = `http://localhost:${port}`
  const base = `${root}/api/v1`
  const server = spawn('node', ['.output/server/index.mjs'], {
    env: {
      ...process.env,
      PORT: port,
      SKY_LEVER_DB: dbFile,
      SKY_LEVER_FLOOD_FROM: 'Infinity',
      SKY_LEVER_LOG: 'silent',
    },
    stdio: 'ignore',
  })
  let cookie = ''
  const call: Call = async (method, path, body) => {
    const answer = await fetch(base + path, {
      method,
      headers: { cookie, ...(body ? { 'content-type': 'application/json' } : {}) },
      ...(body ? { body: JSON.stringify(body) } : {}),
    })
    cookie = answer.headers.get('set-cookie')?.split(';')[0] ?? cookie
    if (!answer.ok) throw new Error(`${method} ${path}: ${answer.status} ${await answer.text()}`)
    return (await answer.json()) as Record<string, unknown>
  }
  const look: Look = async (path) => {
    const begun = performance.now()
    const answer = await fetch(root + path, { headers: { cookie } })
    await answer.arrayBuffer()
    if (!answer.ok) throw new Error(`${path}: ${answer.status}`)
    return performance.now() - begun
  }
  try {
    for (let tries = 0; tries < 300; tries++) {
      if (
        await fetch(`${base}/session`).then(
          (answer) => answer.ok,
          () => false,
        )
      )
        break
      await new Promise((resolve) => setTimeout(resolve, 100))
    }
    await call('POST', '/session/demo', { personId: 'ines' })
    return await work(call, look)
  } finally {
    server.kill()
    await new Promise((resolve) => server.once('exit', resolve))
  }
}
