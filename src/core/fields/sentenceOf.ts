/** What an error says, whatever was thrown. */
export const sentenceOf = (error: unknown): string => (error instanceof Error ? error.message : String(error))
