//! Codes to scan.

use serde::{Deserialize, Serialize};
use ts_rs::TS;
use vatman_document::{AssetId, Code, CodeWords, Command, Content, ItemId, Job, Tint};

use crate::edit::target::content;
use crate::refusal::Refusal;

/// A change of a code; what is absent stays.
#[derive(Debug, Clone, Default, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(deny_unknown_fields)]
pub struct CodeChange {
    /// What it says.
    #[serde(default)]
    #[ts(optional)]
    pub says: Option<CodeWords>,
    /// What lies under it; nothing lets through what lies below.
    #[serde(default, with = "double")]
    #[ts(as = "Option<Option<Tint>>", optional)]
    pub ground: Option<Option<Tint>>,
    /// The picture in its middle; nothing takes it away.
    #[serde(default, with = "double")]
    #[ts(as = "Option<Option<AssetId>>", optional)]
    pub mark: Option<Option<AssetId>>,
}

/// What is absent, and what is set to nothing, are told apart.
mod double {
    use serde::{Deserialize, Deserializer, Serialize, Serializer};

    pub fn serialize<T: Serialize, S: Serializer>(value: &Option<Option<T>>, to: S) -> Result<S::Ok, S::Error> {
        value.as_ref().and_then(Option::as_ref).serialize(to)
    }

    pub fn deserialize<'de, T: Deserialize<'de>, D: Deserializer<'de>>(from: D) -> Result<Option<Option<T>>, D::Error> {
        Option::deserialize(from).map(Some)
    }
}

/// Changes a code.
///
/// # Errors
/// [`Refusal`] where the item is not there or no code.
pub fn change_code(job: &Job, item: &ItemId, change: &CodeChange) -> Result<Command, Refusal> {
    content(job, item, |content| match content {
        Content::Code { code } => Ok(Content::Code {
            code: Code {
                says: change.says.clone().unwrap_or(code.says),
                ground: change.ground.clone().unwrap_or(code.ground),
                mark: change.mark.clone().unwrap_or(code.mark),
            },
        }),
        Content::Words { .. } | Content::Picture { .. } | Content::Shape { .. } | Content::Drawing { .. } => {
            Err(Refusal::NoCode)
        }
    })
}
