import { z } from 'zod'

/** What a thing is called where another was sent. */
const THINGS: Readonly<Record<string, string>> = {
  string: 'a text',
  number: 'a number',
  int: 'a whole number',
  boolean: 'true or false',
  array: 'a list',
  object: 'an object with named fields',
  record: 'an object with named fields',
  null: 'nothing',
}

/** Sentences of this product for what a schema says no sentence of; they go on from “The hang time …”. */
z.config({
  customError: (issue) => {
    switch (issue.code) {
      case 'invalid_type':
        if (issue.input === undefined) return 'must be given'
        return `must be ${THINGS[issue.expected] ?? issue.expected}`
      case 'invalid_value':
        return `must be ${issue.values.length > 1 ? 'one of ' : ''}${issue.values.map(String).join(', ')}`
      case 'too_small':
        return issue.origin === 'string' ? 'is too short' : `must be at least ${String(issue.minimum)}`
      case 'too_big':
        return issue.origin === 'string'
          ? `must be at most ${String(issue.maximum)} characters`
          : `must be at most ${String(issue.maximum)}`
      case 'unrecognized_keys':
        return `has fields nobody knows: ${issue.keys.join(', ')}`
      default:
        return 'is not of a form that is known'
    }
  },
})
