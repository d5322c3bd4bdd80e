import type { Change, Keeper, LoggedChange, OpenedPlan, SentChange } from '@geodrome/core'

/** What a plan session needs of the world: the server, a place that survives a reload, and who edits here. */

/** Fails with ApiError where the server refuses, with OfflineError where it cannot be reached. */
export interface Transport {
  open(planId: string): Promise<Omit<OpenedPlan, 'id'>>
  /** What a baseline or a period says, by activity, that did not come with the plan. */
  said(planId: string, list: Keeper, key: string): Promise<Readonly<Record<string, unknown>>>
  send(planId: string, change: SentChange): Promise<LoggedChange>
  /** Which of these changes are stored: an answer may have been lost, and the change long be behind the latest ones. */
  stored(planId: string, uids: readonly string[]): Promise<readonly string[]>
  changesSince(planId: string, revision: number): Promise<readonly LoggedChange[]>
  /** A page of changes before a revision, newest first. */
  changesBefore(planId: string, revision: number): Promise<readonly LoggedChange[]>
}

export interface Outbox {
  read(planId: string): Promise<KeptChanges>
  write(planId: string, kept: KeptChanges): Promise<void>
}
export interface KeptChanges {
  readonly pending: readonly PendingChange[]
  readonly setAside: readonly SetAside[]
}

export interface Identity {
  /** This page load. */
  readonly client: string
  readonly author: () => string
  readonly newUid: () => string
}

/** A change that was made here and is not yet known to be stored. */
export interface PendingChange {
  readonly uid: string
  readonly client: string
  readonly author: string
  readonly base: number
  readonly change: Change
  readonly undoes: string | null
  /** What it did, in words, for the lists in which it may appear. */
  readonly label: string
}
/** A change that the server refused: kept until its author decides. */
export interface SetAside extends PendingChange {
  readonly reason: string
  readonly theirs: readonly { readonly author: string; readonly label: string }[]
}
