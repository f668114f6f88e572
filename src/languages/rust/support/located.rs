/// As [`serde_json::from_slice`], with the path to what is wrong.
///
/// # Errors
/// The library's own error, and the path to its place in the value.
pub fn from_slice<T: DeserializeOwned>(
    json: &[u8],
) -> Result<T, serde_path_to_error::Error<serde_json::Error>> {
    // The path costs time, and is tracked in a second pass after a failure only.
    serde_json::from_slice(json).or_else(|error| {
        let mut deserializer = serde_json::Deserializer::from_slice(json);
        serde_path_to_error::deserialize(&mut deserializer).and_then(|_: T| {
            let path = serde_path_to_error::Track::new().path();
            Err(serde_path_to_error::Error::new(path, error))
        })
    })
}
