/** Why something was refused, at its field and elsewhere. */

export interface Refusal {
  /** the dotted place in the document, "" where there is none */
  place: string
  /** the whole sentence, with the place in words */
  message: string
  /** the sentence as it stands at the field itself, which bears its own name */
  reason: string
}

/** What was refused at a place of the document. Reasons that begin with the place say it in words, by the names of what stands there. */
export function refused(place: string, message: string, document?: object): Refusal {
  const head = `${place}: `
  if (!place || !message.startsWith(head)) return { place, message, reason: message }
  const reason = message.slice(head.length)
  return { place, message: `${placeWords(place, document)}: ${reason}`, reason: capital(reason) }
}

/** A dotted place in words: "jigs.0.columns" is "Jigs “roof”, columns" where the first jig is called roof. */
export function placeWords(place: string, document?: object): string {
  const words: string[] = []
  let at: unknown = document
  for (const part of place.split('.')) {
    at = at && typeof at === 'object' ? (at as Record<string, unknown>)[part] : undefined
    if (!/^\d+$/.test(part)) {
      words.push(part.replaceAll('_', ' '))
      continue
    }
    const name = at && typeof at === 'object' && 'name' in at && typeof at.name === 'string' ? `“${at.name}”` : ''
    words.push(`${words.pop() ?? ''} ${name || Number(part) + 1}`.trim())
  }
  return capital(words.join(', '))
}

function capital(text: string): string {
  return text.charAt(0).toUpperCase() + text.slice(1)
}
