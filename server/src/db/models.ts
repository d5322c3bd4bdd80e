import { DataTypes, type InferAttributes, type InferCreationAttributes, Model, type Sequelize } from 'sequelize'

/** A plan's head: everything that is not a list of items, and the revision that changes are checked against. */
export class PlanRow extends Model<InferAttributes<PlanRow>, InferCreationAttributes<PlanRow>> {
  declare id: string
  declare code: string
  declare name: string
  declare revision: number
  declare head: string
  declare createdAt: Date
  declare changedAt: Date
  declare removedAt: Date | null
}

/** One item of one list of a plan: an activity, a link, a calendar … */
export class ItemRow extends Model<InferAttributes<ItemRow>, InferCreationAttributes<ItemRow>> {
  declare planId: string
  declare list: string
  declare itemKey: string
  /** Order in the list. */
  declare place: number
  declare body: string
}

/** One change of a plan with its inverse: the log from which undo is made. */
export class ChangeRow extends Model<InferAttributes<ChangeRow>, InferCreationAttributes<ChangeRow>> {
  declare planId: string
  declare revision: number
  /** Given by the sender: a change that is sent twice is applied once. */
  declare uid: string
  declare client: string
  declare author: string
  /** The uid of the change that this one takes back. */
  declare undoes: string | null
  declare body: string
  declare inverse: string
  declare at: Date
}

/** Long work: stored, claimed with a lease, re-runnable with the same answer. */
export class JobRow extends Model<InferAttributes<JobRow>, InferCreationAttributes<JobRow>> {
  declare id: string
  declare planId: string
  declare kind: string
  declare input: string
  declare state: 'queued' | 'running' | 'done' | 'failed' | 'cancelled'
  declare done: number
  declare total: number
  declare result: string | null
  declare error: string | null
  declare leaseUntil: Date | null
  declare createdAt: Date
}

const text = DataTypes.TEXT('long')

export const defineModels = (sequelize: Sequelize): void => {
  PlanRow.init(
    {
      id: { type: DataTypes.STRING(24), primaryKey: true },
      code: DataTypes.STRING(200),
      name: DataTypes.STRING(500),
      revision: DataTypes.INTEGER.UNSIGNED,
      head: text,
      createdAt: DataTypes.DATE(3),
      changedAt: DataTypes.DATE(3),
      removedAt: DataTypes.DATE(3),
    },
    { sequelize, tableName: 'plans' },
  )
  ItemRow.init(
    {
      planId: { type: DataTypes.STRING(24), primaryKey: true },
      list: { type: DataTypes.STRING(20), primaryKey: true },
      itemKey: { type: DataTypes.STRING(420), primaryKey: true },
      place: DataTypes.DOUBLE,
      body: text,
    },
    { sequelize, tableName: 'plan_items' },
  )
  ChangeRow.init(
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
    { sequelize, tableName: 'changes' },
  )
  JobRow.init(
    {
      id: { type: DataTypes.STRING(24), primaryKey: true },
      planId: DataTypes.STRING(24),
      kind: DataTypes.STRING(20),
      input: text,
      state: DataTypes.ENUM('queued', 'running', 'done', 'failed', 'cancelled'),
      done: DataTypes.INTEGER.UNSIGNED,
      total: DataTypes.INTEGER.UNSIGNED,
      result: text,
      error: DataTypes.TEXT,
      leaseUntil: DataTypes.DATE(3),
      createdAt: DataTypes.DATE(3),
    },
    { sequelize, tableName: 'jobs' },
  )
}
