/// Always __text__.
#[derive(Debug, Clone, Copy, Default, PartialEq, Eq, Hash, Serialize, Deserialize)]
pub enum __Constant__ {
    #[default]
    __serde__
    __Word__,
}
