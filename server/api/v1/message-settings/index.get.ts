export default defineRoute('GET /message-settings', ({ workspace }) => {
  const { accounts } = workspace.store
  const mail = accounts.mail()
  const text = accounts.text()
  const dialler = accounts.dialler()
  return {
    messaging: workspace.catalogue().messaging,
    mail: mail && {
      host: mail.host,
      port: mail.port,
      security: mail.security,
      user: mail.user,
      replyDomain: mail.replyDomain,
      signed: mail.dkim !== null,
    },
    text: text && { address: text.address },
    dialler: dialler && { address: dialler.address },
  }
})
