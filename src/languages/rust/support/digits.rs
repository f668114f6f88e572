/// __doc__
#[derive(Debug, Clone, PartialEq, Eq, Hash)]
pub struct __Digits__(Box<str>);

impl __Digits__ {
    /// The number as it is written in JSON.
    #[must_use]
    pub fn as_str(&self) -> &str {
        &self.0
    }
}

impl fmt::Display for __Digits__ {
    fn fmt(&self, formatter: &mut fmt::Formatter<'_>) -> fmt::Result {
        formatter.pad(self.as_str())
    }
}

impl From<i64> for __Digits__ {
    fn from(number: i64) -> Self {
        Self(number.to_string().into())
    }
}

impl FromStr for __Digits__ {
    type Err = serde_json::Error;

    fn from_str(text: &str) -> Result<Self, Self::Err> {
        serde_json::from_str(text)
    }
}

impl<'de> Deserialize<'de> for __Digits__ {
    fn deserialize<D: Deserializer<'de>>(deserializer: D) -> Result<Self, D::Error> {
        let raw = Box::<serde_json::value::RawValue>::deserialize(deserializer)?;
        let text = raw.get();
        if __test__ {
            return Ok(Self(text.into()));
        }
        Err(serde::de::Error::custom(format_args!(
            "expected __what__, found {text}"
        )))
    }
}

impl Serialize for __Digits__ {
    fn serialize<S: Serializer>(&self, serializer: S) -> Result<S::Ok, S::Error> {
        serde_json::value::RawValue::from_string(self.as_str().to_owned())
            .map_err(serde::ser::Error::custom)?
            .serialize(serializer)
    }
}
