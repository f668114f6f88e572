/// Whether an object has one of some words under a key.
pub(crate) fn says(
    object: &serde_json::Map<String, serde_json::Value>,
    key: &str,
    words: &[&str],
) -> bool {
    object
        .get(key)
        .and_then(serde_json::Value::as_str)
        .is_some_and(|word| words.contains(&word))
}

/// One alternative of a union.
pub(crate) fn read<T: DeserializeOwned, E: serde::de::Error>(
    value: serde_json::Value,
) -> Result<T, E> {
    serde_path_to_error::deserialize(value).map_err(E::custom)
}

/// One alternative of a union, to the last digit.
pub(crate) fn parse<T: DeserializeOwned, E: serde::de::Error>(
    text: &serde_json::value::RawValue,
) -> Result<T, E> {
    serde_path_to_error::deserialize(text).map_err(E::custom)
}
