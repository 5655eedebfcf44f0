import type { ComputedRef, InjectionKey } from 'vue'

/** What stands in fields that nobody typed in, by their paths: said elsewhere, and read from there. */
export const FILLED: InjectionKey<ComputedRef<Readonly<Record<string, string>>>> = Symbol('filled fields')
