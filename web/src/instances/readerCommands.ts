import type { InstanceBody } from '@/api/types'

/** Letters and digits that are not taken for each other. */
const SIGNS = 'abcdefghijkmnpqrstuvwxyzABCDEFGHJKLMNPQRSTUVWXYZ23456789'
const LENGTH = 24

/** A password that nobody has to think of: 24 signs of 56, some 139 bits. */
export function generated(): string {
  let made = ''
  while (made.length < LENGTH) {
    for (const byte of crypto.getRandomValues(new Uint8Array(LENGTH))) {
      // what is beyond the last whole round would make some signs likelier
      if (byte < 256 - (256 % SIGNS.length) && made.length < LENGTH)
        made += SIGNS[byte % SIGNS.length]
    }
  }
  return made
}

const quoted = (name: string) => `"${name.replace(/"/g, '""')}"`

/** The commands that make a role which may read statistics and nothing else. */
export function readerCommands(user: string, database: string, password = ''): string {
  const role = quoted(user || 'jamjar_reader')
  return [
    `CREATE ROLE ${role} LOGIN PASSWORD '${password || 'choose one'}' CONNECTION LIMIT 4;`,
    `GRANT pg_monitor TO ${role};`,
    `GRANT CONNECT ON DATABASE ${quoted(database || 'postgres')} TO ${role};`,
    `-- in database ${database || 'postgres'}, for statement statistics:`,
    'CREATE EXTENSION IF NOT EXISTS pg_stat_statements;',
  ].join('\n')
}

/** What a JVM is started with so that it answers, to one who may only read. */
export function startOptions({ endpoint, credential }: InstanceBody, password = ''): string {
  const port = endpoint.port || 9010
  const jmx = '-Dcom.sun.management.jmxremote'
  const tls = endpoint.tls !== 'off'
  return [
    `${jmx}.port=${port}`,
    `${jmx}.rmi.port=${port}`,
    `${jmx}.ssl=${tls}`,
    ...(tls
      ? [
          `${jmx}.registry.ssl=true`,
          '-Djavax.net.ssl.keyStore=keys.p12',
          '-Djavax.net.ssl.keyStorePassword=…',
        ]
      : []),
    ...(credential.user
      ? [
          `${jmx}.authenticate=true`,
          `${jmx}.password.file=jmx.password`,
          `${jmx}.access.file=jmx.access`,
          `# jmx.password, readable by its owner only: ${credential.user} ${password || '<the password>'}`,
          `# jmx.access: ${credential.user} readonly`,
        ]
      : [`${jmx}.authenticate=false`, `${jmx}.host=127.0.0.1`, '# without a user: loopback only']),
    `-Djava.rmi.server.hostname=${endpoint.host || 'its name as seen from here'}`,
  ].join('\n')
}
