/** Text without anything that could move the cursor or turn the line around. */
export function visible(text: string): string {
  return text.replace(
    /[\p{Cc}\p{Cf}\p{Cs}\p{Zl}\p{Zp}]/gu,
    (character) => `\\u${character.charCodeAt(0).toString(16).padStart(4, '0')}`,
  );
}
