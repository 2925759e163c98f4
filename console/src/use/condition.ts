/** A part of a condition that is built, whole: what is not of its kind is empty. */
export interface ConditionPart {
  kind: string
  of: ConditionPart[]
  attribute: string | null
  comparison: string | null
  values: string[]
  cel: string | null
}

export const group = (kind: string, of: ConditionPart[]): ConditionPart => ({ kind, of, attribute: null, comparison: null, values: [], cel: null })

export const compared = (attribute: string): ConditionPart => ({ kind: 'is', of: [], attribute, comparison: 'equal', values: [''], cel: null })
