/** Code units of JSON's grammar. */
export const QUOTE = 34
export const APOSTROPHE = 39
export const COMMA = 44
export const DIGIT_0 = 48
export const DIGIT_9 = 57
export const COLON = 58
export const OPEN_BRACKET = 91
export const BACKSLASH = 92
export const CLOSE_BRACKET = 93
export const OPEN_BRACE = 123
export const CLOSE_BRACE = 125
