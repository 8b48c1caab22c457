/** A statement on several lines. The library is large: it comes when a text is looked at first. */
export async function formatted(text: string): Promise<string> {
  const { format } = await import('sql-formatter')
  try {
    // a list that was folded is none of the language's signs
    const told = format(text.replaceAll('…', 'folded_list'), {
      language: 'postgresql',
      paramTypes: { positional: true },
    })
    return told.replaceAll('folded_list', '…')
  } catch {
    // one that is cut off, or of a kind that the library does not know, stands as it is
    return text
  }
}
