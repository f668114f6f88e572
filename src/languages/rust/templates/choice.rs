//: if doc
/// __doc__
//: end
#[derive(__derives__)]
__attributes__
pub enum __Choice__ {
    //: each words
    __serde__
    __Word__,
    //: end
    //: if open
    #[serde(untagged)]
    __Other__(String),
    //: end
}

impl __Choice__ {
    /// The word as it is in JSON.
    #[must_use]
    //: if open
    pub fn as_str(&self) -> &str {
    //: else
    pub const fn as_str(self) -> &'static str {
    //: end
        match self {
            //: each words
            __case__
            //: end
            //: if open
            Self::__Other__(word) => word,
            //: end
        }
    }
}

impl fmt::Display for __Choice__ {
    fn fmt(&self, formatter: &mut fmt::Formatter<'_>) -> fmt::Result {
        formatter.pad(self.as_str())
    }
}
//: if open

impl PartialEq for __Choice__ {
    fn eq(&self, other: &Self) -> bool {
        self.as_str() == other.as_str()
    }
}

impl Eq for __Choice__ {}

impl Hash for __Choice__ {
    fn hash<H: Hasher>(&self, state: &mut H) {
        self.as_str().hash(state);
    }
}
//: end
