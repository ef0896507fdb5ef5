// What a change of a plan leaves as it is.
export const AS_IT_IS = { kinds: {}, month_first: null, limits: null, composing: null, back_to: null };
