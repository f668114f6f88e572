import type { Helper } from '../kit/helpers.js';

/** What generated Rust may need beside its types. Each stands only where something uses it. */
export const helpers: Readonly<Record<string, Helper>> = {
  DecodeError: {
    imports: ['std::fmt', 'serde_path_to_error::Segment'],
    text: `/// A payload does not have the declared shape.
#[derive(Debug)]
pub struct DecodeError {
    /// JSON Pointer of the value.
    pub path: String,
    /// What was expected there instead.
    pub message: String,
}

impl fmt::Display for DecodeError {
    fn fmt(&self, formatter: &mut fmt::Formatter<'_>) -> fmt::Result {
        let path = if self.path.is_empty() {
            "the top"
        } else {
            &self.path
        };
        write!(formatter, "at {}: {}", path, self.message)
    }
}

impl std::error::Error for DecodeError {}

impl From<serde_path_to_error::Error<serde_json::Error>> for DecodeError {
    fn from(error: serde_path_to_error::Error<serde_json::Error>) -> Self {
        let mut path = String::new();
        for segment in error.path().iter() {
            match segment {
                Segment::Seq { index } => path += &format!("/{}", index),
                Segment::Map { key } => {
                    path += &format!("/{}", key.replace('~', "~0").replace('/', "~1"))
                }
                _ => {}
            }
        }
        DecodeError {
            path,
            message: error.inner().to_string(),
        }
    }
}`,
  },
  present: {
    imports: ['serde::Deserialize', 'serde::Deserializer'],
    text: `/// Reads a value that is there, which leaves \`None\` for a key that is absent.
fn present<'de, T, D>(deserializer: D) -> Result<Option<T>, D::Error>
where
    T: Deserialize<'de>,
    D: Deserializer<'de>,
{
    T::deserialize(deserializer).map(Some)
}`,
  },
  nullable: {
    imports: ['serde::Deserialize', 'serde::Deserializer'],
    text: `/// Reads a value or null, and refuses a key that is absent.
fn nullable<'de, T, D>(deserializer: D) -> Result<Option<T>, D::Error>
where
    T: Deserialize<'de>,
    D: Deserializer<'de>,
{
    Option::deserialize(deserializer)
}`,
  },
  read: {
    imports: ['serde::de::DeserializeOwned', 'serde::de::Error', 'serde_json::Value'],
    needs: ['DecodeError'],
    text: `/// Reads one alternative of a union.
fn read<T: DeserializeOwned, E: Error>(value: Value) -> Result<T, E> {
    serde_path_to_error::deserialize(value).map_err(|error| E::custom(DecodeError::from(error)))
}`,
  },
};
