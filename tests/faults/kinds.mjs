/**
 * Kinds of faults. Each strikes while somebody works: `strike` begins it, and gives back what ends it. `pages` are the tabs that are open;
 * `edit(page)` makes a random change in one. What has to hold afterwards is checked for all alike (faults.mjs).
 */
import { execFileSync } from 'node:child_process'
import { mkdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'

const pause = (ms) => new Promise((resolve) => setTimeout(resolve, ms))
const isSending = (request) => request.method() === 'POST' && /\/acts$/.test(new URL(request.url()).pathname)
/** Something happens to what is sent while it lasts. */
const onSending = (handler, times = 1) => ({
  async strike({ page }) {
    let left = times
    const route = async (route) => {
      if (!isSending(route.request()) || left-- <= 0) return route.continue()
      try {
        await handler(route)
      } catch {
        /* the page was gone by then */
      }
    }
    await page.route('**/api/projects/**', route)
    return () => page.unroute('**/api/projects/**', route).catch(() => {})
  },
})
const again = (request, url = request.url()) =>
  fetch(url, { method: 'POST', body: request.postData(), headers: { 'content-type': 'application/json' } }).catch(
    () => {},
  )
const signal = (name, pid) => {
  try {
    process.kill(pid, name)
  } catch {
    /* it is gone already */
  }
}
const serverPid = (application) => Number(readFileSync(join(application.data, 'server.pid'), 'utf8'))
/** In the page: this browser's storage says no. */
const storage = (how) => ({
  async strike({ page }) {
    await page.evaluate((how) => {
      globalThis.faultsBefore ??= { add: IDBObjectStore.prototype.add, put: IDBObjectStore.prototype.put }
      const refuse = () => {
        throw how === 'quota'
          ? new DOMException('full', 'QuotaExceededError')
          : new DOMException('no', 'InvalidStateError')
      }
      IDBObjectStore.prototype.add = IDBObjectStore.prototype.put = refuse
    }, how)
    return () => page.evaluate(() => Object.assign(IDBObjectStore.prototype, globalThis.faultsBefore)).catch(() => {})
  },
})

export const KINDS = {
  'server killed': {
    async strike({ application }) {
      await application.killServer()
      return () => application.restartServer()
    },
  },
  'server stalls': {
    async strike({ application, random }) {
      const pid = serverPid(application)
      signal('SIGSTOP', pid)
      await pause(random.between(200, 1500))
      return () => signal('SIGCONT', pid)
    },
  },
  'database killed': {
    async strike({ application }) {
      application.killDatabase()
      return () => application.restartDatabase()
    },
  },
  'database stalls': {
    async strike({ application, random }) {
      const pids = application.databaseProcesses()
      for (const pid of pids) signal('SIGSTOP', pid)
      await pause(random.between(200, 1500))
      return () => {
        for (const pid of pids) signal('SIGCONT', pid)
      }
    },
  },
  'database connections cut': {
    async strike({ application }) {
      application.sql(
        "select pg_terminate_backend(pid) from pg_stat_activity where pid <> pg_backend_pid() and backend_type = 'client backend'",
      )
      return () => {}
    },
  },
  offline: {
    async strike({ context, random }) {
      await context.setOffline(true)
      await pause(random.between(100, 1500))
      return () => context.setOffline(false)
    },
  },
  'sending delayed': onSending(async (route) => {
    await pause(900)
    await route.continue()
  }),
  'sending lost': onSending((route) => route.abort('connectionreset'), 2),
  'answer lost': onSending(async (route) => {
    await again(route.request())
    await route.abort('connectionreset')
  }),
  'answer lost, then a stall': onSending(async (route) => {
    await again(route.request())
    await pause(700)
    await route.abort('timedout')
  }, 2),
  'sending doubled': onSending(async (route) => {
    await again(route.request())
    await route.continue()
  }, 3),
  'sending arrives again, late': onSending(async (route) => {
    const request = route.request(),
      body = request.postData(),
      url = request.url()
    await route.continue()
    setTimeout(() => void again({ postData: () => body }, url), 1200)
  }, 3),
  'answer is a 500': onSending((route) => route.fulfill({ status: 500, body: '{"problem":"made up"}' }), 2),
  'answer is a 503': onSending((route) => route.fulfill({ status: 503, body: '' }), 3),
  'answer is no JSON': onSending(async (route) => {
    await again(route.request())
    await route.fulfill({ status: 200, body: '<html>a login page</html>' })
  }),
  'one change refused for good': {
    refuses: true,
    async strike({ page }) {
      let victim = null
      const route = async (route) => {
        if (!isSending(route.request())) return route.continue()
        const { acts } = route.request().postDataJSON()
        victim ??= acts[0]?.id ?? null
        if (victim !== null && acts.some((act) => act.id === victim))
          return route.fulfill({
            status: 422,
            contentType: 'application/json',
            body: '{"problem":"Made up: not this one."}',
          })
        return route.continue()
      }
      await page.route('**/api/projects/**', route)
      return async () => {
        await pause(300)
        await page.unroute('**/api/projects/**', route).catch(() => {})
      }
    },
  },
  'storage full': storage('quota'),
  'storage refuses': storage('refuses'),
  'no storage at all': {
    async strike({ page, open, replace, edit }) {
      const bare = await open(page, () => {
        IDBFactory.prototype.open = () => {
          throw new DOMException('no', 'SecurityError')
        }
      })
      replace(page, bare)
      await edit(bare)
      // A tab that keeps nothing says so; it is left once all is saved.
      return async () => {
        await bare.waitForSelector('[data-saving=saved][data-kept=false]')
        replace(bare, await open(bare))
      }
    },
  },
  'tab reloaded': {
    async strike({ page, reload }) {
      await reload(page)
      return () => {}
    },
  },
  'tab closed and opened again': {
    async strike({ page, open, replace }) {
      replace(page, await open(page))
      return () => {}
    },
  },
  'tab closed while offline, opened later': {
    async strike({ page, context, edit, open, replace }) {
      await context.setOffline(true)
      await edit(page)
      await edit(page)
      await pause(150)
      await page.close()
      await context.setOffline(false)
      replace(page, await open(page))
      return () => {}
    },
  },
  'browser killed': {
    async strike({ crash }) {
      await crash()
      return () => {}
    },
  },
  'two tabs at once': {
    tabs: 2,
    async strike({ pages, edit }) {
      for (let i = 0; i < 4; i++) await Promise.all(pages.map((page) => edit(page)))
      return () => {}
    },
  },
  'two tabs, one offline': {
    tabs: 2,
    async strike({ pages, edit }) {
      await pages[0].context().setOffline(true)
      for (const page of [pages[0], pages[1], pages[0], pages[1]]) await edit(page)
      return () => pages[0].context().setOffline(false)
    },
  },
  'two tabs, one takes back what the other builds on': {
    tabs: 2,
    async strike({ pages, edit }) {
      await edit(pages[0])
      await pause(500)
      await Promise.all([pages[0].evaluate(() => globalThis.wilyScissor.undo()), edit(pages[1])])
      return () => {}
    },
  },
  'two tabs, the answer to one lost': {
    tabs: 2,
    async strike(all) {
      const end = await KINDS['answer lost'].strike({ ...all, page: all.pages[0] })
      await Promise.all(all.pages.map((page) => all.edit(page)))
      return end
    },
  },
  'disk full': {
    async strike({ application }) {
      // A picture that is sent meanwhile gets a sentence; nothing of it stays.
      const folder = join(application.data, 'scratch')
      mkdirSync(folder, { recursive: true })
      try {
        execFileSync('mount', ['-t', 'tmpfs', '-o', 'size=64k', 'tmpfs', folder], { stdio: 'ignore' })
      } catch {
        return () => {} // this machine does not let us
      }
      try {
        const answer = await fetch(`${application.url}/api/pictures`, {
          method: 'POST',
          body: Buffer.alloc(400_000, 7),
        })
        if (answer.status !== 507) throw new Error(`a full disk is answered by ${answer.status} ${await answer.text()}`)
      } finally {
        execFileSync('umount', [folder])
      }
      return () => {}
    },
  },
}
