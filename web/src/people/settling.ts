import type { Schemas } from '../api/client'

/** A choice that was made about a file of others: of which layer, sheet or column, which of its properties, and what. */
export type Settling = Pick<Schemas['FileChoice'], 'of' | 'field' | 'value'>
