/** Keywords that narrow a schema, and can be left out of it when a value does not meet them. */
export const bounds: ReadonlySet<string> = new Set(
  'minimum maximum exclusiveMinimum exclusiveMaximum multipleOf minLength maxLength pattern minItems maxItems uniqueItems contains minContains maxContains minProperties maxProperties propertyNames dependentRequired contentEncoding contentMediaType'.split(
    ' ',
  ),
);

/** Keywords that say things which cannot be widened without knowing what was meant. */
export const intricate: ReadonlySet<string> = new Set(
  'allOf not if then else dependentSchemas patternProperties unevaluatedProperties unevaluatedItems $dynamicRef'.split(
    ' ',
  ),
);
