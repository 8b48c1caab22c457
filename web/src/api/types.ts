import type { components } from './schema'

type Schemas = components['schemas']
/** Parts that may be null: the description's generator does not say so for whole objects. */
type Maybe<T, K extends keyof T> = Omit<T, K> & { [P in K]: T[P] | null }

export type Jar = Schemas['JarView']
export type InstanceState = Maybe<Schemas['InstanceState'], 'jar' | 'outside'>
export type Instance = Omit<Schemas['InstanceView'], 'state'> & { state: InstanceState }
export type InstanceBody = Schemas['InstanceBody']
/** `over`: its mean and greatest over the window, where they were asked for. */
export type Series = Schemas['SeriesView'] & {
  over?: { mean: number | null; greatest: number | null }
}
export type Points = Schemas['SeriesPoints']
export type SeriesFigures = Schemas['SeriesFigures']
export type MomentValue = Schemas['MomentValue']
export type RankedRow = Schemas['RankedRow']
export type Ranking = Maybe<Schemas['Ranking'], 'all'>
export type RecipeText = Schemas['Text']
export type RecipeChange = Schemas['Change']
export type ToldFact = Schemas['ToldFact']
export type LastChecks = Schemas['Checked']
export type EndPoint = Omit<Schemas['EndPoint'], 'state'> & { state: InstanceState | null }
export type StoredCredential = Schemas['StoredCredential']
export type CredentialBody = Schemas['CredentialBody']
export type EstateText = Schemas['EstateText']
export type EstateResult = Schemas['Result']
export type EstateProgress = Schemas['Progress']
export type EstateLine = Schemas['Line']
export type Arrangement = Omit<Schemas['Arrangement'], 'reach'> & { reach: 'kind' | 'instance' }
export type Beans = Schemas['All']
export type Bean = Schemas['Bean']
export type BeanAttribute = Schemas['BeanAttribute']
export type BeanNumber = Schemas['BeanNumber']
export type CounterOfBean = Schemas['CounterOfBean']
export type Check = Schemas['CheckView']
export type LiveReading = Schemas['LiveReading']
export type LimitInForce = Schemas['LimitInForce']
export type Limit = Maybe<Schemas['LimitView'], 'hold' | 'criticalHold'>
export type LimitBody = Maybe<Schemas['LimitBody'], 'hold' | 'criticalHold'>
export type Hold = Schemas['Hold']
export type Alert = Maybe<Schemas['AlertView'], 'acknowledged'>
export type Rang = Schemas['AlertRang']
export type Marker = Schemas['MarkerView']
export type Recipes = Schemas['Offered']
export type FoundJvm = Schemas['Found']
export type ExpectedGroup = Schemas['Group']
export type Gaps = Schemas['Gaps']
export type MarkerBody = Schemas['MarkerBody']
export type StoreView = Maybe<Schemas['StoreView'], 'sizes'>
export type StoreSizes = Schemas['StoreSizes']
export type GoingMonth = Schemas['GoingMonth']
export type KeepingClass = Schemas['KeepingClass']
export type KeepingBody = Schemas['KeepingBody']
export type Sessions = Schemas['Sessions']
export type Session = Schemas['Session']
export type Statements = Schemas['Statements']
export type StatementRow = Schemas['StatementsRow']
export type Statement = Schemas['Statement']
export type Executions = Schemas['Executions']
export type Execution = Schemas['Execution']
export type EngineLog = Schemas['Log']
export type BaselineWeek = Schemas['BaselineWeek']
export type MovedSeries = Schemas['MovedSeries']
export type MovedRow = Schemas['MovedRow']
export type Compared = Schemas['Compared']
export type ComparedRow = Schemas['ComparedSeries']
export type Leak = Schemas['Leak']
export type PoolCheck = Schemas['PoolCheck']
export type Threads = Schemas['Threads']
export type ThreadsTaken = Schemas['ThreadsTaken']
export type EarlierHolders = Schemas['EarlierHolders']
export type Busy = Schemas['Busy']
export type Locks = Omit<Schemas['Locks'], 'roots'> & { roots: LockRoot[] }
export type LockRoot = Maybe<Schemas['LockRoot'], 'session'>
export type LockNode = Schemas['LockNode']
