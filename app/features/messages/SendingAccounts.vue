<script setup lang="ts">
import { attempt, send } from '~/shared/api/api'
import AppDialog from '~/shared/dialog/AppDialog.vue'

/** By what messages and calls leave: the simulated ones, or a mail server, a gateway and a dialler of one’s own. */
const props = defineProps<{
  mail: { host: string; port: number; security: string; user: string; replyDomain: string; signed: boolean } | null
  text: { address: string } | null
  dialler: { address: string } | null
  editable: boolean
}>()
const emit = defineEmits<{ changed: [] }>()
type Account = 'mail' | 'text' | 'dialler'
const asking = ref<Account | null>(null)
const TITLES = { mail: 'Mail server', text: 'Text message gateway', dialler: 'Dialler' } as const
const ONE = { text: 'gateway', dialler: 'dialler' } as const
const server = reactive({ host: '', port: 587, security: 'startTls', user: '', password: '', replyDomain: '' })
const dkim = reactive({ domain: '', selector: '', privateKey: '' })
const gateway = reactive({ address: '', token: '' })
function ask(what: Account): void {
  Object.assign(server, { password: '' }, props.mail ?? {})
  Object.assign(dkim, { domain: '', selector: '', privateKey: '' })
  Object.assign(gateway, { address: (what === 'mail' ? null : props[what])?.address ?? '', token: '' })
  asking.value = what
}
async function keep(): Promise<void> {
  const { host, port, security, user, password, replyDomain } = server
  const what = asking.value
  if (!what) return
  const done = await attempt(() =>
    what === 'mail'
      ? send('PUT', '/api/v1/message-settings/mail', {
          account: {
            host,
            port,
            security,
            user,
            password,
            replyDomain,
            dkim: dkim.domain === '' ? null : { ...dkim },
          },
        })
      : send('PUT', `/api/v1/message-settings/${what}`, { [ONE[what]]: { ...gateway } }),
  )
  if (!done) return
  asking.value = null
  emit('changed')
}
async function simulate(what: Account): Promise<void> {
  const done = await attempt(() =>
    what === 'mail'
      ? send('PUT', '/api/v1/message-settings/mail', { account: null })
      : send('PUT', `/api/v1/message-settings/${what}`, { [ONE[what]]: null }),
  )
  if (done) emit('changed')
}
</script>

<template>
  <section class="mt-8" aria-labelledby="accounts-title">
    <h2 id="accounts-title">Accounts</h2>
    <table class="list mt-1 max-w-[900px]" aria-label="Accounts">
      <tbody>
        <tr>
          <td class="w-40">Emails</td>
          <td data-mail-account>
            <template v-if="props.mail"
              >{{ props.mail.host }}:{{ props.mail.port
              }}<template v-if="props.mail.user">, as {{ props.mail.user }}</template
              ><template v-if="props.mail.replyDomain">; answers come to {{ props.mail.replyDomain }}</template
              ><template v-if="props.mail.signed">; signed</template></template
            ><template v-else>Simulated mailboxes: nothing leaves this computer.</template>
          </td>
          <td v-if="editable" class="w-64 text-right">
            <button type="button" class="word" @click="ask('mail')">
              {{ props.mail ? 'Change' : 'Use your email server…' }}
            </button>
            <button v-if="props.mail" type="button" class="word ml-3" @click="simulate('mail')">Simulate</button>
          </td>
        </tr>
        <tr>
          <td>Text messages</td>
          <td>
            <template v-if="props.text">{{ props.text.address }}</template><template v-else
              >Simulated phones: nothing leaves this computer.</template
            >
          </td>
          <td v-if="editable" class="text-right">
            <button type="button" class="word" @click="ask('text')">
              {{ props.text ? 'Change' : 'Use a gateway…' }}
            </button>
            <button v-if="props.text" type="button" class="word ml-3" @click="simulate('text')">Simulate</button>
          </td>
        </tr>
        <tr>
          <td>Calls</td>
          <td>
            <template v-if="props.dialler">{{ props.dialler.address }}</template><template v-else
              >Simulated phone: no one is called.</template
            >
          </td>
          <td v-if="editable" class="text-right">
            <button type="button" class="word" @click="ask('dialler')">
              {{ props.dialler ? 'Change' : 'Use a dialler…' }}
            </button>
            <button v-if="props.dialler" type="button" class="word ml-3" @click="simulate('dialler')">Simulate</button>
          </td>
        </tr>
      </tbody>
    </table>
    <AppDialog v-if="asking" :title="TITLES[asking]" :width="560" @close="asking = null">
      <form class="label-grid mt-3" @submit.prevent="keep">
        <template v-if="asking === 'mail'">
          <label for="mail-host">Server</label>
          <input
            id="mail-host"
            v-model.trim="server.host"
            class="entry"
            required
            data-first
            placeholder="smtp.larkmoor.example"
          />
          <label for="mail-port">Port</label>
          <input
            id="mail-port"
            v-model.number="server.port"
            type="number"
            min="1"
            max="65535"
            class="entry w-28"
            required
          />
          <label for="mail-security">Encryption</label>
          <select id="mail-security" v-model="server.security" class="entry">
            <option value="startTls">STARTTLS</option>
            <option value="tls">TLS from the beginning</option>
            <option value="none">None</option>
          </select>
          <label for="mail-user">User</label>
          <input id="mail-user" v-model="server.user" class="entry" autocomplete="off" />
          <label for="mail-password">Password</label>
          <input
            id="mail-password"
            v-model="server.password"
            type="password"
            class="entry"
            autocomplete="new-password"
            :placeholder="props.mail ? 'unchanged' : ''"
          />
          <label for="mail-reply">Domain of answers</label>
          <input
            id="mail-reply"
            v-model.trim="server.replyDomain"
            class="entry"
            placeholder="empty: answers go to the senders"
          />
          <label for="dkim-domain">DKIM domain</label>
          <input id="dkim-domain" v-model.trim="dkim.domain" class="entry" placeholder="empty: not signed" />
          <template v-if="dkim.domain">
            <label for="dkim-selector">DKIM selector</label>
            <input id="dkim-selector" v-model.trim="dkim.selector" class="entry" required />
            <label for="dkim-key">DKIM private key</label>
            <textarea id="dkim-key" v-model="dkim.privateKey" class="entry" rows="4" required />
          </template>
        </template>
        <template v-else>
          <label for="text-address">Address</label>
          <input id="text-address" v-model.trim="gateway.address" type="url" class="entry" required data-first />
          <label for="text-token">Token</label>
          <input
            id="text-token"
            v-model="gateway.token"
            type="password"
            class="entry"
            autocomplete="new-password"
            :placeholder="props[asking] ? 'unchanged' : ''"
          />
        </template>
        <p class="quiet col-span-2">Secrets are kept sealed and never shown again.</p>
        <p class="col-span-2 flex gap-2">
          <button type="submit" class="button main">Save</button>
          <button type="button" class="button" @click="asking = null">Cancel</button>
        </p>
      </form>
    </AppDialog>
  </section>
</template>
