/* Columns that many tables have. */
import { integer, text } from 'drizzle-orm/sqlite-core'

export const id = () => integer('id').primaryKey({ autoIncrement: true })
export const json = <T>(name: string) => text(name, { mode: 'json' }).$type<T>()
export const at = (name: string) => text(name)
/** Counts the changes of a row, so that of two people who save the same one the later is told. */
export const version = () => integer('version').notNull().default(1)
export const words = (name: string) => json<string[]>(name).notNull().default([])
