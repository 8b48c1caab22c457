import type { InstanceBody } from '@/api/types'

const quoted = (name: string) => `"${name.replace(/"/g, '""')}"`

/** The commands that make a role which may read statistics and nothing else. */
export function readerCommands(user: string, database: string): string {
  const role = quoted(user || 'jamjar_reader')
  return [
    `CREATE ROLE ${role} LOGIN PASSWORD 'choose one' CONNECTION LIMIT 4;`,
    `GRANT pg_monitor TO ${role};`,
    `GRANT CONNECT ON DATABASE ${quoted(database || 'postgres')} TO ${role};`,
    `-- in database ${database || 'postgres'}, for statement statistics:`,
    'CREATE EXTENSION IF NOT EXISTS pg_stat_statements;',
  ].join('\n')
}

/** What a JVM is started with so that it answers, to one who may only read. */
export function startOptions({ endpoint, credential }: InstanceBody): string {
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
          `# jmx.password, readable by its owner only: ${credential.user} <the password>`,
          `# jmx.access: ${credential.user} readonly`,
        ]
      : [`${jmx}.authenticate=false`, `${jmx}.host=127.0.0.1`, '# without a user: loopback only']),
    `-Djava.rmi.server.hostname=${endpoint.host || 'its name as seen from here'}`,
  ].join('\n')
}
