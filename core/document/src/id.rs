//! Identities. Each kind of thing has its own type, so that one cannot stand for another.

use std::fmt;

use serde::{Deserialize, Serialize};
use thiserror::Error;
use ts_rs::TS;

/// An identity that is not 1 to 64 letters, digits, `-` or `_`.
#[derive(Debug, Clone, PartialEq, Eq, Error)]
#[error("\u{201c}{0}\u{201d} is not an identity: 1 to 64 letters, digits, hyphens or underscores are wanted.")]
pub struct IdError(pub String);

/// Where new identities come from; the core makes none by itself, so that it stays repeatable.
pub trait IdSource {
    /// An identity never given before.
    fn fresh(&mut self) -> String;
}

macro_rules! identities {
    ($($(#[$doc:meta])* $name:ident),* $(,)?) => {$(
        $(#[$doc])*
        #[derive(Debug, Clone, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize, TS)]
        #[serde(try_from = "String", into = "String")]
        #[ts(type = "string")]
        pub struct $name(String);

        impl $name {
            /// Checks and wraps an identity.
            ///
            /// # Errors
            /// [`IdError`] unless it is 1 to 64 ASCII letters, digits, hyphens or underscores.
            pub fn new(text: impl Into<String>) -> Result<Self, IdError> {
                let text = text.into();
                let fits = (1..=64).contains(&text.len()) && text.bytes().all(|b| b.is_ascii_alphanumeric() || b == b'-' || b == b'_');
                if fits { Ok(Self(text)) } else { Err(IdError(text.chars().take(80).collect())) }
            }

            /// A fresh one; what the source gives is mended to the allowed letters.
            pub fn fresh(source: &mut dyn IdSource) -> Self {
                let text: String = source.fresh().chars().filter(|c| c.is_ascii_alphanumeric() || *c == '-').take(64).collect();
                Self(if text.is_empty() { "id".to_owned() } else { text })
            }

            /// As text.
            #[must_use]
            pub fn as_str(&self) -> &str {
                &self.0
            }
        }

        impl TryFrom<String> for $name {
            type Error = IdError;
            fn try_from(text: String) -> Result<Self, IdError> {
                Self::new(text)
            }
        }

        impl From<$name> for String {
            fn from(id: $name) -> Self {
                id.0
            }
        }

        impl fmt::Display for $name {
            fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
                f.write_str(&self.0)
            }
        }
    )*};
}

identities! {
    /// A job.
    JobId,
    /// A piece of a job.
    PieceId,
    /// A side of a piece.
    SideId,
    /// One item on one side.
    ItemId,
    /// What the same item in several pieces has in common.
    KinId,
    /// A picture, named by the hash of its bytes.
    AssetId,
    /// A shared colour of the job.
    SwatchId,
    /// Items of a side that are picked and moved as one.
    GroupId,
}
