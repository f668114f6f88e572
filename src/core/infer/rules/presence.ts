import { share, type Rule } from '../rule.js';

/** A key is required when no object lacked it. */
export const presence: Rule = {
  name: 'presence',
  decide({ presence: seen, said }) {
    if (seen === undefined) return undefined;
    const { present, objects, firstAbsent } = seen;
    const decided = said.get('optional');
    if (decided !== undefined && present === objects)
      return { shape: { required: false }, decision: 'optional', because: decided.source, doubt: 0 };
    if (present === objects) {
      return {
        shape: { required: true },
        decision: 'required',
        because: `present in ${share(present, objects)}`,
      };
    }
    return {
      shape: { required: false },
      decision: 'optional',
      because: `absent in ${objects - present} of ${objects}`,
      first: firstAbsent,
    };
  },
};
