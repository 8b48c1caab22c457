import { forget, taken } from './early'
import type {
  Account,
  AccountBody,
  Audited,
  Entry,
  Me,
  GroupRight,
  Setting,
  Likes,
  LikesChange,
  Channel,
  ChannelBody,
  ChannelTrial,
  HeartbeatState,
  Message,
  MessageWaiting,
  OnDuty,
  TellingPlan,
  TellingSwap,
  TellingTrial,
  ToldOfAlert,
  SignedIn,
  NewToken,
  PastChange,
  Token,
  TokenBody,
  WhatToDo,
  AcknowledgeBody,
  Alert,
  AlertStory,
  Arrangement,
  BeanAttribute,
  Beans,
  Busy,
  Check,
  CounterOfBean,
  CredentialBody,
  EndPoint,
  EstateProgress,
  EstateResult,
  EarlierHolders,
  Recurs,
  EngineLog,
  EstateText,
  Executions,
  ExpectedGroup,
  FoundJvm,
  FoundLink,
  Instance,
  InstanceBody,
  Gaps,
  GoingMonth,
  KeepingBody,
  LastChecks,
  Limit,
  LimitBody,
  LimitInForce,
  LimitNoise,
  Locks,
  Marker,
  MomentValue,
  MarkerBody,
  Points,
  Rang,
  Ranking,
  RecipeChange,
  Recipes,
  RecipeText,
  Series,
  SeriesFigures,
  Sessions,
  Statement,
  BaselineWeek,
  Forecast,
  OutcomeOf,
  Work,
  MovedSeries,
  Compared,
  Leak,
  PoolCheck,
  Statements,
  Strip,
  Threads,
  ThreadsTaken,
  StoredCredential,
  StoreView,
  Together,
  Tried,
  TriedNumbers,
  TryBody,
  ToldFact,
} from './types'

/** What went wrong, in words for the person; the field at fault and failed checks where there are some. */
export class Failure extends Error {
  constructor(
    message: string,
    readonly status: number,
    readonly type = '',
    readonly field = '',
    readonly checks: Check[] = [],
  ) {
    super(message)
  }
}

/** What went wrong, in words, whatever it was. */
export const inWords = (e: unknown) => (e instanceof Error ? e.message : String(e))

/** The field that is at fault; none where it is none of them. */
export const fieldOf = (e: unknown) => (e instanceof Failure ? e.field : '')

/** Called when the server knows nobody here any more. */
let onStranger = () => {}
export const whenStranger = (then: () => void) => void (onStranger = then)

/** What the server wants to see again with each change, as proof that it comes from its own page. */
const proof = (): Record<string, string> => {
  const token = /(?:^|; )XSRF-TOKEN=([^;]*)/.exec(document.cookie)?.[1]
  return token ? { 'X-XSRF-TOKEN': decodeURIComponent(token) } : {}
}

async function call<T>(
  method: string,
  path: string,
  body?: unknown,
  signal?: AbortSignal,
): Promise<T> {
  let answer: Response
  if (method !== 'GET') forget()
  try {
    answer = await (taken(path) ??
      fetch(path, {
        method,
        signal,
        // what is removed as a page is left goes all the same
        keepalive: method === 'DELETE',
        headers: {
          ...(body === undefined ? {} : { 'Content-Type': 'application/json' }),
          ...(method === 'GET' ? {} : proof()),
        },
        body: body === undefined ? undefined : JSON.stringify(body),
      }))
  } catch {
    throw new Failure(`Jam Jar's server does not answer at ${location.host}. Is it running?`, 0)
  }
  if (!answer.ok) {
    const problem = await answer.json().catch(() => ({}))
    if (problem.type === 'urn:jamjar:sign-in') onStranger()
    throw new Failure(
      problem.detail ?? `The server answered ${answer.status}.`,
      answer.status,
      problem.type,
      problem.field,
      problem.checks,
    )
  }
  return answer.status === 204 ? (undefined as T) : ((await answer.json()) as T)
}

/** A question that may be broken off. */
const ask = <T>(path: string, signal?: AbortSignal) => call<T>('GET', path, undefined, signal)

const insisting = (insist: boolean) => (insist ? '?insist=true' : '')

const query = (asked: Record<string, string | number | undefined>) =>
  Object.entries(asked)
    .filter(([, value]) => value !== undefined)
    .map(([name, value]) => `${name}=${encodeURIComponent(value ?? '')}`)
    .join('&')
const atMoment = (at: number | undefined) => (at === undefined ? '' : `?at=${Math.round(at)}`)

export const api = {
  instances: (signal?: AbortSignal) => ask<Instance[]>('/api/instances', signal),
  addInstance: (body: InstanceBody, insist: boolean) =>
    call<Instance>('POST', `/api/instances${insisting(insist)}`, body),
  changeInstance: (id: number, body: InstanceBody, insist: boolean) =>
    call<Instance>('PUT', `/api/instances/${id}${insisting(insist)}`, body),
  removeInstance: (id: number) => call<void>('DELETE', `/api/instances/${id}`),
  preflight: (body: InstanceBody, id?: number) =>
    call<Check[]>('POST', `/api/instances/${id === undefined ? '' : `${id}/`}preflight`, body),
  lastChecks: (id: number, signal?: AbortSignal) =>
    ask<LastChecks>(`/api/instances/${id}/preflight`, signal),
  checkNow: (id: number) => call<Check[]>('POST', `/api/instances/${id}/preflight`),
  pause: (id: number, paused: boolean) =>
    call<Instance>('POST', `/api/instances/${id}/${paused ? 'pause' : 'resume'}`),
  endPoints: (signal?: AbortSignal) => ask<EndPoint[]>('/api/endpoints', signal),
  me: () => call<Me>('GET', '/api/session'),
  signIn: (name: string, password: string) => call<Me>('POST', '/api/session', { name, password }),
  enter: (key: string) => call<Me>('POST', '/api/session/key', { key }),
  makeFirst: (body: { key: string; name: string; password: string }) =>
    call<Me>('POST', '/api/accounts/first', body),
  signedIn: (signal?: AbortSignal) => ask<SignedIn[]>('/api/account/sessions', signal),
  likes: () => ask<Likes>('/api/account/likes'),
  like: (change: LikesChange) => call<Likes>('PUT', '/api/account/likes', change),
  telling: (signal?: AbortSignal) => ask<TellingPlan>('/api/telling', signal),
  putTelling: (plan: TellingPlan) => call<TellingPlan>('PUT', '/api/telling', plan),
  tryTelling: (plan: TellingPlan, weeks: number) =>
    call<TellingTrial>('POST', '/api/telling/trial', { plan, weeks }),
  onDuty: (signal?: AbortSignal) => ask<OnDuty[]>('/api/telling/duty', signal),
  swapDuty: (duty: string, swap: TellingSwap) =>
    call<TellingPlan>('POST', `/api/telling/duty/${encodeURIComponent(duty)}/swap`, swap),
  heartbeats: (signal?: AbortSignal) => ask<HeartbeatState[]>('/api/telling/heartbeats', signal),
  messages: (from: number, to: number, signal?: AbortSignal) =>
    ask<Message[]>(`/api/messages?from=${Math.round(from)}&to=${Math.round(to)}`, signal),
  messagesWaiting: (signal?: AbortSignal) => ask<MessageWaiting[]>('/api/messages/waiting', signal),
  toldOf: (alert: number, signal?: AbortSignal) =>
    ask<ToldOfAlert>(`/api/alerts/${alert}/told`, signal),
  risen: (rose: string, signal?: AbortSignal) =>
    ask<{ id: number }>(`/api/told/${encodeURIComponent(rose)}`, signal),
  channels: (signal?: AbortSignal) => ask<Channel[]>('/api/channels', signal),
  putChannel: (name: string, body: ChannelBody) =>
    call<void>('PUT', `/api/channels/${encodeURIComponent(name)}`, body),
  removeChannel: (name: string) =>
    call<void>('DELETE', `/api/channels/${encodeURIComponent(name)}`),
  tryChannel: (name: string, address: string) =>
    call<ChannelTrial>('POST', `/api/channels/${encodeURIComponent(name)}/trial`, { address }),
  signOutBrowser: (name: string) => call<void>('DELETE', `/api/account/sessions/${name}`),
  settings: (signal?: AbortSignal) => ask<Setting[]>('/api/settings', signal),
  signOut: () => call<void>('DELETE', '/api/session'),
  signOutEverywhere: () => call<void>('DELETE', '/api/account/sessions'),
  changePassword: (old: string, password: string) =>
    call<Me>('PUT', '/api/account/password', { old, password }),
  accounts: (signal?: AbortSignal) => call<Account[]>('GET', '/api/accounts', undefined, signal),
  addAccount: (body: AccountBody) => call<Account>('POST', '/api/accounts', body),
  changeAccount: (id: number, body: AccountBody) =>
    call<Account>('PUT', `/api/accounts/${id}`, body),
  removeAccount: (id: number) => call<void>('DELETE', `/api/accounts/${id}`),
  keyOf: (id: number) => call<Entry>('POST', `/api/accounts/${id}/key`),
  signOutOf: (id: number) => call<void>('DELETE', `/api/accounts/${id}/sessions`),
  tokens: (signal?: AbortSignal) => call<Token[]>('GET', '/api/tokens', undefined, signal),
  addToken: (body: TokenBody) => call<NewToken>('POST', '/api/tokens', body),
  signOnGroups: (signal?: AbortSignal) => ask<GroupRight[]>('/api/sign-on/groups', signal),
  putSignOnGroup: (body: GroupRight) => call<GroupRight>('PUT', '/api/sign-on/groups', body),
  removeSignOnGroup: (name: string) =>
    call<void>('DELETE', `/api/sign-on/groups?name=${encodeURIComponent(name)}`),
  removeToken: (id: number) => call<void>('DELETE', `/api/tokens/${id}`),
  changesOf: (what: string, of: string, signal?: AbortSignal) =>
    call<PastChange[]>(
      'GET',
      `/api/changes/of?what=${what}&of=${encodeURIComponent(of)}`,
      undefined,
      signal,
    ),
  audit: (query: { from: number; to: number; words: string }, signal?: AbortSignal) =>
    call<Audited[]>(
      'GET',
      `/api/audit?from=${query.from}&to=${query.to}&words=${encodeURIComponent(query.words)}`,
      undefined,
      signal,
    ),
  credentials: () => call<StoredCredential[]>('GET', '/api/credentials'),
  putCredential: (name: string, body: CredentialBody) =>
    call<StoredCredential>('PUT', `/api/credentials/${encodeURIComponent(name)}`, body),
  removeCredential: (name: string) =>
    call<void>('DELETE', `/api/credentials/${encodeURIComponent(name)}`),
  takeEstate: (body: EstateText, dry: boolean, insist: boolean, run: string) =>
    call<EstateResult>('POST', `/api/estate/import?dry=${dry}&insist=${insist}&run=${run}`, body),
  estateProgress: (run: string) => call<EstateProgress>('GET', `/api/estate/import/${run}`),
  stopEstate: (run: string) => call<void>('DELETE', `/api/estate/import/${run}`),
  expect: (body: ExpectedGroup) => call<ExpectedGroup>('PUT', '/api/groups', body),
  recipes: (signal?: AbortSignal) => ask<Recipes>('/api/recipes', signal),
  recipe: (key: string, signal?: AbortSignal) => ask<RecipeText>(`/api/recipes/${key}`, signal),
  changeRecipe: (key: string, text: string, dry: boolean) =>
    call<RecipeChange>('PUT', `/api/recipes/${key}?dry=${dry}`, { text }),
  removeRecipe: (key: string) => call<void>('DELETE', `/api/recipes/${key}`),
  jvms: () => call<FoundJvm[]>('GET', '/api/jvms'),
  groups: () => call<ExpectedGroup[]>('GET', '/api/groups'),
  series: (id: number, signal?: AbortSignal) =>
    ask<Series[]>(`/api/instances/${id}/series`, signal),
  points: (series: number[], from: number, to: number, maxPoints: number, signal?: AbortSignal) =>
    call<Points[]>('POST', '/api/points', { series, from, to, maxPoints, normal: true }, signal),
  moment: (series: number[], at: number, signal?: AbortSignal) =>
    call<MomentValue[]>('POST', '/api/moment', { series, at }, signal),
  figures: (series: number[], from: number, to: number, signal?: AbortSignal) =>
    call<SeriesFigures[]>('POST', '/api/figures', { series, from, to }, signal),
  sessions: (id: number, at: number | undefined, signal?: AbortSignal) =>
    ask<Sessions>(`/api/instances/${id}/sessions${atMoment(at)}`, signal),
  locks: (id: number, at: number | undefined, signal?: AbortSignal) =>
    ask<Locks>(`/api/instances/${id}/locks${atMoment(at)}`, signal),
  statements: (
    id: number,
    { vs, ...asked }: { order: string; by: string; from: number; to: number; vs?: number },
    signal?: AbortSignal,
  ) => ask<Statements>(`/api/instances/${id}/statements?${query({ ...asked, vs })}`, signal),
  executions: (
    id: number,
    asked: { begin?: number; end?: number; lowest?: number; highest?: number } & {
      from: number
      to: number
      steps: number
    },
    signal?: AbortSignal,
  ) => ask<Executions>(`/api/instances/${id}/executions?${query(asked)}`, signal),
  log: (id: number, from: number, to: number, signal?: AbortSignal) =>
    ask<EngineLog>(`/api/instances/${id}/log?${query({ from, to })}`, signal),
  threadsTaken: (id: number, from: number, to: number, signal?: AbortSignal) =>
    ask<ThreadsTaken[]>(`/api/instances/${id}/threads?${query({ from, to })}`, signal),
  threads: (id: number, at: number, signal?: AbortSignal) =>
    ask<Threads>(`/api/instances/${id}/threads/${at}`, signal),
  statement: (
    id: number,
    print: string,
    from: number,
    to: number,
    steps: number,
    signal?: AbortSignal,
  ) =>
    ask<Statement>(
      `/api/instances/${id}/statements/${print}?${query({ from, to, steps })}`,
      signal,
    ),
  earlierHolders: (
    id: number,
    asked: { at: number; user: string; program: string; statement: string },
    signal?: AbortSignal,
  ) => ask<EarlierHolders>(`/api/instances/${id}/locks/earlier?${query(asked)}`, signal),
  busy: (id: number, by: string, from: number, to: number, steps: number, signal?: AbortSignal) =>
    ask<Busy>(`/api/instances/${id}/busy?${query({ by, from, to, steps })}`, signal),
  recurs: (series: number, at: number, signal?: AbortSignal) =>
    ask<Recurs>(`/api/series/${series}/recurs?${query({ at })}`, signal),
  forecast: (series: number, capacity: number | undefined, signal?: AbortSignal) =>
    ask<Forecast>(`/api/series/${series}/forecast?${query({ capacity })}`, signal),
  work: (series: number, at: number | undefined, signal?: AbortSignal) =>
    ask<Work>(`/api/series/${series}/work${atMoment(at)}`, signal),
  baselineWeek: (series: number, at: number, signal?: AbortSignal) =>
    ask<BaselineWeek>(`/api/baselines/${series}/week?at=${at}`, signal),
  freeze: (id: number, body: { name: string; from: number; to: number }) =>
    call<void>('POST', `/api/instances/${id}/frozen`, body),
  thaw: (id: number, frozen: number) =>
    call<void>('DELETE', `/api/instances/${id}/frozen/${frozen}`),
  learn: (id: number) => call<void>('POST', `/api/instances/${id}/learn`),
  moved: (
    asked: { of: string; order: string; from?: number; to?: number; most: number },
    signal?: AbortSignal,
  ) => ask<MovedSeries>(`/api/moved?${query(asked)}`, signal),
  limitNoise: (signal?: AbortSignal) => ask<LimitNoise>('/api/limits/noise', signal),
  tryLimit: (asked: TryBody, signal?: AbortSignal) =>
    call<Tried>('POST', '/api/limits/replay', asked, signal),
  tryNumbers: (asked: TryBody, wanted: number, signal?: AbortSignal) =>
    call<TriedNumbers>('POST', `/api/limits/replay/numbers?${query({ wanted })}`, asked, signal),
  together: (
    asked: { of: string; counters: string; at: number | undefined },
    signal?: AbortSignal,
  ) => ask<Together>(`/api/together?${query(asked)}`, signal),
  strip: (
    asked: { of: string; counter: string; from: number; to: number; steps: number },
    signal?: AbortSignal,
  ) => ask<Strip>(`/api/together/strip?${query(asked)}`, signal),
  compare: (
    id: number,
    asked: { from: number; to: number; vs: string; span: string },
    signal?: AbortSignal,
  ) => ask<Compared>(`/api/instances/${id}/compare?${query(asked)}`, signal),
  leak: (id: number, at: number | undefined, signal?: AbortSignal) =>
    ask<Leak>(`/api/instances/${id}/leak${atMoment(at)}`, signal),
  poolChecks: (id: number, from: number, to: number, signal?: AbortSignal) =>
    ask<PoolCheck[]>(`/api/instances/${id}/pools/check?${query({ from, to })}`, signal),
  ranking: (id: number, counter: string, from: number, to: number, signal?: AbortSignal) =>
    ask<Ranking>(
      `/api/instances/${id}/ranking?counter=${encodeURIComponent(counter)}&from=${from}&to=${to}`,
      signal,
    ),
  store: (signal?: AbortSignal) => ask<StoreView>('/api/store', signal),
  goingBy: (keep: number, body: KeepingBody, signal?: AbortSignal) =>
    call<GoingMonth[]>('POST', `/api/store/classes/${keep}/going`, body, signal),
  changeKeeping: (keep: number, body: KeepingBody) =>
    call<void>('PUT', `/api/store/classes/${keep}`, body),
  keepAs: (id: number, keep: number) => call<void>('PUT', `/api/store/instances/${id}`, { keep }),
  facts: (id: number, signal?: AbortSignal) =>
    ask<ToldFact[]>(`/api/instances/${id}/facts`, signal),
  beans: (id: number, signal?: AbortSignal) => ask<Beans>(`/api/instances/${id}/beans`, signal),
  beanAttributes: (id: number, bean: string, signal?: AbortSignal) =>
    ask<BeanAttribute[]>(
      `/api/instances/${id}/beans/attributes?bean=${encodeURIComponent(bean)}`,
      signal,
    ),
  counterOfBean: (id: number, body: CounterOfBean, dry: boolean) =>
    call<RecipeChange>('POST', `/api/instances/${id}/beans/counter?dry=${dry}`, body),
  arrangements: () => call<Arrangement[]>('GET', '/api/arrangements'),
  keepArrangement: (body: Arrangement) => call<Arrangement>('PUT', '/api/arrangements', body),
  forgetArrangement: (reach: string, of: string) =>
    call<void>('DELETE', `/api/arrangements?reach=${reach}&of=${encodeURIComponent(of)}`),
  foundLinks: (signal?: AbortSignal) => ask<FoundLink[]>('/api/links/found', signal),
  confirmUse: (id: number, use: string) =>
    call<Instance>('POST', `/api/instances/${id}/uses`, { use }),
  limits: (signal?: AbortSignal) => ask<Limit[]>('/api/limits', signal),
  limitsInForce: (id: number, signal?: AbortSignal) =>
    ask<LimitInForce[]>(`/api/instances/${id}/limits`, signal),
  addLimit: (body: LimitBody) => call<Limit>('POST', '/api/limits', body),
  changeLimit: (id: number, body: LimitBody) => call<Limit>('PUT', `/api/limits/${id}`, body),
  changeLimits: (changes: { id: number; limit: LimitBody }[]) =>
    call<Limit[]>('PUT', '/api/limits', changes),
  removeLimit: (id: number) => call<void>('DELETE', `/api/limits/${id}`),
  openAlerts: (signal?: AbortSignal) => ask<Alert[]>('/api/alerts?state=open', signal),
  alerts: (from: number, to: number, signal?: AbortSignal) =>
    ask<Alert[]>(`/api/alerts?state=all&from=${from}&to=${to}`, signal),
  alert: (id: number, signal?: AbortSignal) => ask<Alert>(`/api/alerts/${id}`, signal),
  rang: (id: number, signal?: AbortSignal) => ask<Rang>(`/api/alerts/${id}/rang`, signal),
  story: (id: number, signal?: AbortSignal) => ask<AlertStory>(`/api/alerts/${id}/story`, signal),
  putWhatToDo: (body: WhatToDo) => call<WhatToDo>('PUT', '/api/what-to-do', body),
  acknowledge: (id: number, body: AcknowledgeBody) =>
    call<Alert>('POST', `/api/alerts/${id}/acknowledge`, body),
  assignable: (id: number, signal?: AbortSignal) =>
    ask<string[]>(`/api/alerts/${id}/assignable`, signal),
  assign: (id: number, to: string) => call<Alert>('PUT', `/api/alerts/${id}/assigned`, { to }),
  comment: (id: number, note: string) =>
    call<Alert>('POST', `/api/alerts/${id}/comments`, { note }),
  markers: (from: number, to: number, signal?: AbortSignal) =>
    ask<Marker[]>(`/api/markers?from=${from}&to=${to}`, signal),
  outcomes: (marker: number, signal?: AbortSignal) =>
    ask<OutcomeOf[]>(`/api/markers/${marker}/outcomes`, signal),
  gaps: (from: number, to: number, instances: number[], signal?: AbortSignal) =>
    ask<Gaps>(
      `/api/gaps?${query({ from, to })}${instances.map((id) => `&instance=${id}`).join('')}`,
      signal,
    ),
  addMarker: (body: MarkerBody) => call<Marker>('POST', '/api/markers', body),
  changeMarker: (id: number, body: MarkerBody) => call<Marker>('PUT', `/api/markers/${id}`, body),
  removeMarker: (id: number) => call<void>('DELETE', `/api/markers/${id}`),
  want: (stream: string, instances: number[]) =>
    call<void>('POST', `/api/live/${stream}`, { instances }),
}

/** Opens the live stream; it is told then whose readings are wanted. */
export const openLive = () => new EventSource('/api/live')

/** Whether the browser has given a stream up for good. */
export const isClosed = (stream: EventSource) => stream.readyState === EventSource.CLOSED
