import {
  DataTypes,
  type CreationOptional,
  type InferAttributes,
  type InferCreationAttributes,
  type Model,
  type ModelStatic,
  type Sequelize,
} from 'sequelize'

/** A plan's head: everything that is not a list of items, and the revision that changes are checked against. */
export interface PlanRow extends Model<InferAttributes<PlanRow>, InferCreationAttributes<PlanRow>> {
  id: string
  code: string
  name: string
  revision: number
  head: string
  createdAt: Date
  changedAt: Date
  removedAt: Date | null
  /** Given by who imported it: an import that is sent twice makes one plan. */
  importUid: string | null
  /** When it was put away; null: it is looked at. */
  archivedAt: CreationOptional<Date | null>
}

/** What was found about a plan as of a revision, for the list of plans. */
export interface PlanFactsRow extends Model<
  InferAttributes<PlanFactsRow>,
  InferCreationAttributes<PlanFactsRow>
> {
  planId: string
  revision: number
  body: string
}

/** A link by which others see a plan. */
export interface ShareRow extends Model<InferAttributes<ShareRow>, InferCreationAttributes<ShareRow>> {
  id: string
  /** Digest of what opens it. */
  tokenHash: string
  planId: string
  scenario: string | null
  shows: string
  owner: string | null
  /** For whom it is. */
  title: string
  madeBy: string
  madeAt: Date
  /** The last day on which it opens. */
  untilDay: string | null
  revokedAt: Date | null
  openedAt: Date | null
}

/** One item of one list of a plan: an activity, a link, a calendar … */
export interface ItemRow extends Model<InferAttributes<ItemRow>, InferCreationAttributes<ItemRow>> {
  planId: string
  list: string
  itemKey: string
  /** Order in the list. */
  place: number
  body: string
}

/** One change of a plan with its inverse: the log from which undo is made. */
export interface ChangeRow extends Model<InferAttributes<ChangeRow>, InferCreationAttributes<ChangeRow>> {
  planId: string
  revision: number
  /** Given by the sender: a change that is sent twice is applied once. */
  uid: string
  client: string
  author: string
  /** The uid of the change that this one takes back. */
  undoes: string | null
  body: string
  inverse: string
  at: Date
}

/** Long work: stored, claimed with a lease, re-runnable with the same answer. */
export interface JobRow extends Model<InferAttributes<JobRow>, InferCreationAttributes<JobRow>> {
  id: string
  planId: string
  kind: string
  input: string
  state: 'queued' | 'running' | 'done' | 'failed' | 'cancelled'
  done: number
  total: number
  /** Numbers that it holds in memory while it runs. */
  weight: number
  /** How often it was begun. */
  attempts: number
  /** What is shown of it while it grows. */
  partial: string | null
  result: string | null
  error: string | null
  leaseUntil: Date | null
  /** Who holds the lease; another name for each claim. */
  owner: string | null
  /** The server that holds the lease, see presence.ts. */
  server: string | null
  /** The revision of the plan that it is about. */
  revision: number
  /** Of a run that somebody wants to keep. */
  name: string | null
  createdAt: Date
}

/** Somebody who signs in. */
export interface AccountRow extends Model<InferAttributes<AccountRow>, InferCreationAttributes<AccountRow>> {
  id: string
  name: string
  /** Digest of the name as it is compared: two names that read alike are one. */
  nameKey: string
  /** What a password is held against; null until one was chosen. */
  password: string | null
  /** Of the server: makes accounts, and is administrator of every plan. */
  administrator: boolean
  since: Date
  closedAt: Date | null
}

/** A link by which somebody chooses a password, once. */
export interface WelcomeRow extends Model<InferAttributes<WelcomeRow>, InferCreationAttributes<WelcomeRow>> {
  /** Digest of what opens it. */
  tokenHash: string
  /** Null: makes the first administrator. */
  account: string | null
  until: Date
}

/** A browser in which somebody is signed in. */
export interface SessionRow extends Model<InferAttributes<SessionRow>, InferCreationAttributes<SessionRow>> {
  /** Digest of the cookie. */
  tokenHash: string
  account: string
  since: Date
  seenAt: Date
}

/** What somebody is in a plan. */
export interface PlanRoleRow extends Model<
  InferAttributes<PlanRoleRow>,
  InferCreationAttributes<PlanRoleRow>
> {
  planId: string
  account: string
  role: string
}

/** How the columns of a list were read, by its heads and who sent it. */
export interface SheetMappingRow extends Model<
  InferAttributes<SheetMappingRow>,
  InferCreationAttributes<SheetMappingRow>
> {
  /** Whose it is; '' where nobody signs in. */
  owner: string
  /** Digest of the heads. */
  headsKey: string
  sender: string
  heads: string
  body: string
  at: Date
}

const text = DataTypes.TEXT('long')

/** The models on one connection; several servers in one process each have their own. */
export interface Models {
  readonly plans: ModelStatic<PlanRow>
  readonly items: ModelStatic<ItemRow>
  readonly changes: ModelStatic<ChangeRow>
  readonly jobs: ModelStatic<JobRow>
  readonly facts: ModelStatic<PlanFactsRow>
  readonly shares: ModelStatic<ShareRow>
  readonly sheetMappings: ModelStatic<SheetMappingRow>
  readonly accounts: ModelStatic<AccountRow>
  readonly welcomes: ModelStatic<WelcomeRow>
  readonly sessions: ModelStatic<SessionRow>
  readonly planRoles: ModelStatic<PlanRoleRow>
}

export const defineModels = (sequelize: Sequelize): Models => ({
  plans: sequelize.define<PlanRow>(
    'plans',
    {
      id: { type: DataTypes.STRING(24), primaryKey: true },
      code: DataTypes.STRING(200),
      name: DataTypes.STRING(500),
      revision: DataTypes.INTEGER.UNSIGNED,
      head: text,
      createdAt: DataTypes.DATE(3),
      changedAt: DataTypes.DATE(3),
      removedAt: DataTypes.DATE(3),
      importUid: DataTypes.STRING(40),
      archivedAt: DataTypes.DATE(3),
    },
    { tableName: 'plans' },
  ),
  shares: sequelize.define<ShareRow>(
    'shares',
    {
      id: { type: DataTypes.STRING(24), primaryKey: true },
      tokenHash: DataTypes.CHAR(64),
      planId: DataTypes.STRING(24),
      scenario: DataTypes.STRING(200),
      shows: DataTypes.STRING(20),
      owner: DataTypes.STRING(500),
      title: DataTypes.STRING(200),
      madeBy: DataTypes.STRING(200),
      madeAt: DataTypes.DATE(3),
      untilDay: DataTypes.CHAR(10),
      revokedAt: DataTypes.DATE(3),
      openedAt: DataTypes.DATE(3),
    },
    { tableName: 'shares' },
  ),
  facts: sequelize.define<PlanFactsRow>(
    'plan_facts',
    {
      planId: { type: DataTypes.STRING(24), primaryKey: true },
      revision: DataTypes.INTEGER.UNSIGNED,
      body: text,
    },
    { tableName: 'plan_facts' },
  ),
  items: sequelize.define<ItemRow>(
    'plan_items',
    {
      planId: { type: DataTypes.STRING(24), primaryKey: true },
      list: { type: DataTypes.STRING(20), primaryKey: true },
      itemKey: { type: DataTypes.STRING(500), primaryKey: true },
      place: DataTypes.DOUBLE,
      body: text,
    },
    { tableName: 'plan_items' },
  ),
  changes: sequelize.define<ChangeRow>(
    'changes',
    {
      planId: { type: DataTypes.STRING(24), primaryKey: true },
      revision: { type: DataTypes.INTEGER.UNSIGNED, primaryKey: true },
      uid: DataTypes.STRING(40),
      client: DataTypes.STRING(40),
      author: DataTypes.STRING(100),
      undoes: DataTypes.STRING(40),
      body: text,
      inverse: text,
      at: DataTypes.DATE(3),
    },
    { tableName: 'changes' },
  ),
  jobs: sequelize.define<JobRow>(
    'jobs',
    {
      id: { type: DataTypes.STRING(24), primaryKey: true },
      planId: DataTypes.STRING(24),
      kind: DataTypes.STRING(20),
      input: text,
      state: DataTypes.ENUM('queued', 'running', 'done', 'failed', 'cancelled'),
      done: DataTypes.INTEGER.UNSIGNED,
      total: DataTypes.INTEGER.UNSIGNED,
      weight: DataTypes.INTEGER.UNSIGNED,
      attempts: DataTypes.INTEGER.UNSIGNED,
      partial: text,
      result: text,
      error: DataTypes.TEXT,
      leaseUntil: DataTypes.DATE(3),
      owner: DataTypes.STRING(24),
      server: DataTypes.STRING(24),
      revision: DataTypes.INTEGER.UNSIGNED,
      name: DataTypes.STRING(120),
      createdAt: DataTypes.DATE(3),
    },
    { tableName: 'jobs' },
  ),
  sheetMappings: sequelize.define<SheetMappingRow>(
    'sheet_mappings',
    {
      owner: { type: DataTypes.STRING(24), primaryKey: true },
      headsKey: { type: DataTypes.CHAR(64), primaryKey: true },
      sender: { type: DataTypes.STRING(200), primaryKey: true },
      heads: DataTypes.TEXT,
      body: DataTypes.TEXT,
      at: DataTypes.DATE(3),
    },
    { tableName: 'sheet_mappings' },
  ),
  accounts: sequelize.define<AccountRow>(
    'accounts',
    {
      id: { type: DataTypes.STRING(24), primaryKey: true },
      name: DataTypes.STRING(100),
      nameKey: DataTypes.CHAR(64),
      password: DataTypes.STRING(300),
      administrator: DataTypes.BOOLEAN,
      since: DataTypes.DATE(3),
      closedAt: DataTypes.DATE(3),
    },
    { tableName: 'accounts' },
  ),
  welcomes: sequelize.define<WelcomeRow>(
    'welcomes',
    {
      tokenHash: { type: DataTypes.CHAR(64), primaryKey: true },
      account: DataTypes.STRING(24),
      until: DataTypes.DATE(3),
    },
    { tableName: 'welcomes' },
  ),
  sessions: sequelize.define<SessionRow>(
    'sessions',
    {
      tokenHash: { type: DataTypes.CHAR(64), primaryKey: true },
      account: DataTypes.STRING(24),
      since: DataTypes.DATE(3),
      seenAt: DataTypes.DATE(3),
    },
    { tableName: 'sessions' },
  ),
  planRoles: sequelize.define<PlanRoleRow>(
    'plan_roles',
    {
      planId: { type: DataTypes.STRING(24), primaryKey: true },
      account: { type: DataTypes.STRING(24), primaryKey: true },
      role: DataTypes.STRING(20),
    },
    { tableName: 'plan_roles' },
  ),
})
