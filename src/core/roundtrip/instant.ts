/**
 * An RFC 3339 date-time as its instant in UTC: seconds since 1970 and the digits of the fraction without
 * trailing zeros. Undefined when the text is not one, or does not exist in the calendar.
 */
export function instantOf(text: string): string | undefined {
  const match =
    /^(\d{4})-(\d\d)-(\d\d)[Tt ](\d\d):(\d\d):(\d\d)(?:\.(\d+))?(?:[Zz]|([+-])(\d\d):(\d\d))$/.exec(text);
  if (match === null) return undefined;
  const [year, month, day, hour, minute, second] = match.slice(1, 7).map(Number) as [
    number,
    number,
    number,
    number,
    number,
    number,
  ];
  if (
    month < 1 ||
    month > 12 ||
    day < 1 ||
    day > daysIn(year, month) ||
    hour > 23 ||
    minute > 59 ||
    second > 60
  )
    return undefined;
  const offset =
    match[8] === undefined ? 0 : (match[8] === '-' ? -1 : 1) * (Number(match[9]) * 60 + Number(match[10]));
  const seconds = daysSinceEpoch(year, month, day) * 86400 + hour * 3600 + (minute - offset) * 60 + second;
  return `${seconds}.${(match[7] ?? '').replace(/0+$/, '')}`;
}

/** Whether two date-times say the same instant, and are as far from UTC. */
export function isSameTime(a: string, b: string): boolean {
  const instant = instantOf(a);
  return instant !== undefined && instant === instantOf(b) && offsetIn(a) === offsetIn(b);
}

function offsetIn(text: string): string {
  const offset = text.slice(-6);
  return /^[+-]\d\d:\d\d$/.test(offset) && offset.slice(1) !== '00:00' ? offset : 'Z';
}

function daysIn(year: number, month: number): number {
  if (month === 2) return (year % 4 === 0 && year % 100 !== 0) || year % 400 === 0 ? 29 : 28;
  return [4, 6, 9, 11].includes(month) ? 30 : 31;
}

/** Days from 1970-01-01 in the proleptic Gregorian calendar (Fliegel and Van Flandern 1968). */
function daysSinceEpoch(year: number, month: number, day: number): number {
  const y = month <= 2 ? year - 1 : year;
  const era = Math.floor(y / 400);
  const yearOfEra = y - era * 400;
  const dayOfYear = Math.floor((153 * (month + (month > 2 ? -3 : 9)) + 2) / 5) + day - 1;
  const dayOfEra = yearOfEra * 365 + Math.floor(yearOfEra / 4) - Math.floor(yearOfEra / 100) + dayOfYear;
  return era * 146097 + dayOfEra - 719468;
}
