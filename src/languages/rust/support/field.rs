/// A field that may be absent, null or a value.
#[derive(Debug, Clone, Copy, Default, PartialEq, Eq, Hash)]
pub enum Field<T> {
    #[default]
    Absent,
    Null,
    Value(T),
}

impl<T> Field<T> {
    /// Whether the field is there, be it null.
    #[must_use]
    pub const fn is_set(&self) -> bool {
        !self.is_absent()
    }

    #[must_use]
    pub const fn is_absent(&self) -> bool {
        matches!(self, Self::Absent)
    }

    /// The value, unless the field is absent or null.
    #[must_use]
    pub const fn get(&self) -> Option<&T> {
        match self {
            Self::Value(value) => Some(value),
            Self::Absent | Self::Null => None,
        }
    }

    pub fn set(&mut self, value: T) {
        *self = Self::Value(value);
    }

    pub fn set_null(&mut self) {
        *self = Self::Null;
    }

    /// Takes the field away.
    pub fn clear(&mut self) {
        *self = Self::Absent;
    }
}

impl<T> From<T> for Field<T> {
    fn from(value: T) -> Self {
        Self::Value(value)
    }
}

impl<'de, T: Deserialize<'de>> Deserialize<'de> for Field<T> {
    fn deserialize<D: Deserializer<'de>>(deserializer: D) -> Result<Self, D::Error> {
        Ok(Option::deserialize(deserializer)?.map_or(Self::Null, Self::Value))
    }
}

impl<T: Serialize> Serialize for Field<T> {
    fn serialize<S: Serializer>(&self, serializer: S) -> Result<S::Ok, S::Error> {
        self.get().serialize(serializer)
    }
}

/// For a field that may be absent and not null.
pub(crate) fn not_null<'de, T: Deserialize<'de>, D: Deserializer<'de>>(
    deserializer: D,
) -> Result<Option<T>, D::Error> {
    T::deserialize(deserializer).map(Some)
}
