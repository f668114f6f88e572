//: if doc
/// __doc__
//: end
#[derive(__derives__)]
__attributes__
pub enum __Union__ {
    //: each arms
    __Arm__(__Type__),
    //: end
}

impl<'de> Deserialize<'de> for __Union__ {
    fn deserialize<D: Deserializer<'de>>(deserializer: D) -> Result<Self, D::Error> {
        //: if raw
        let text = Box::<RawValue>::deserialize(deserializer)?;
        let value = Value::deserialize(&*text).map_err(D::Error::custom)?;
        //: else
        let value = Value::deserialize(deserializer)?;
        //: end
        match &value {
            //: each arms
            __case__
            //: end
            __otherwise__
        }
    }
}
