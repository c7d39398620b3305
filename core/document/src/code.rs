//! What a scannable code says.

use serde::{Deserialize, Serialize};
use ts_rs::TS;

use crate::{AssetId, Fault, Tint};

/// What a code says, as the devices that read it know it.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(tag = "kind", rename_all = "camelCase", deny_unknown_fields)]
pub enum CodeWords {
    /// An address of the web.
    Address {
        /// As it was typed; without a scheme `https` is meant.
        address: String,
    },
    /// Somebody's card, for a phone's address book.
    Contact {
        /// Name.
        name: String,
        /// What they work for.
        #[serde(default)]
        firm: String,
        /// Telephone.
        #[serde(default)]
        phone: String,
        /// Mail.
        #[serde(default)]
        mail: String,
        /// Web.
        #[serde(default)]
        web: String,
    },
    /// A wireless network to join.
    Network {
        /// Its name.
        name: String,
        /// Its password; without one it is open.
        #[serde(default)]
        password: String,
    },
    /// Plain words.
    Plain {
        /// The words.
        text: String,
    },
}

impl CodeWords {
    /// What is written into the code: for cards vCard 3.0 (RFC 2426), for networks the form phones read.
    #[must_use]
    pub fn written(&self) -> String {
        match self {
            Self::Address { address } => {
                let address = address.trim();
                let whole = address.is_empty()
                    || address.contains("://")
                    || address.starts_with("mailto:")
                    || address.starts_with("tel:");
                if whole { address.to_owned() } else { format!("https://{address}") }
            }
            Self::Contact { name, firm, phone, mail, web } => {
                let name = name.trim();
                let (given, family) = name.rsplit_once(' ').unwrap_or((name, ""));
                let mut card = format!(
                    "BEGIN:VCARD\nVERSION:3.0\nN:{};{}\nFN:{}\n",
                    escaped(family),
                    escaped(given),
                    escaped(name)
                );
                for (field, value) in [("ORG", firm), ("TEL", phone), ("EMAIL", mail), ("URL", web)] {
                    if !value.trim().is_empty() {
                        card.push_str(&format!("{field}:{}\n", escaped(value.trim())));
                    }
                }
                card.push_str("END:VCARD");
                card
            }
            Self::Network { name, password } => {
                let plain = |text: &str| {
                    text.chars()
                        .flat_map(|c| if ";,:\\\"".contains(c) { vec!['\\', c] } else { vec![c] })
                        .collect::<String>()
                };
                if password.is_empty() {
                    format!("WIFI:T:nopass;S:{};;", plain(name))
                } else {
                    format!("WIFI:T:WPA;S:{};P:{};;", plain(name), plain(password))
                }
            }
            Self::Plain { text } => text.clone(),
        }
    }

    /// Whether it says nothing yet.
    #[must_use]
    pub fn is_blank(&self) -> bool {
        match self {
            Self::Address { address } => address.trim().is_empty(),
            Self::Contact { name, firm, phone, mail, web } => {
                [name, firm, phone, mail, web].iter().all(|field| field.trim().is_empty())
            }
            Self::Network { name, .. } => name.trim().is_empty(),
            Self::Plain { text } => text.trim().is_empty(),
        }
    }

    /// The same kind of code with other words in its first field.
    #[must_use]
    pub fn with(&self, words: &str) -> Self {
        let words = words.to_owned();
        match self.clone() {
            Self::Address { .. } => Self::Address { address: words },
            Self::Contact { firm, phone, mail, web, .. } => Self::Contact { name: words, firm, phone, mail, web },
            Self::Network { password, .. } => Self::Network { name: words, password },
            Self::Plain { .. } => Self::Plain { text: words },
        }
    }

    /// What people read instead of scanning.
    #[must_use]
    pub fn said(&self) -> &str {
        match self {
            Self::Address { address } => address.trim(),
            Self::Contact { name, firm, .. } => {
                if name.trim().is_empty() {
                    firm.trim()
                } else {
                    name.trim()
                }
            }
            Self::Network { name, .. } => name.trim(),
            Self::Plain { text } => text.trim(),
        }
    }
}

/// A value of a vCard: its own signs are escaped, lines stay one (RFC 2426, section 5).
fn escaped(text: &str) -> String {
    text.replace('\\', "\\\\").replace(';', "\\;").replace(',', "\\,").replace('\n', "\\n")
}

/// A scannable code.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(deny_unknown_fields)]
pub struct Code {
    /// What it says.
    pub says: CodeWords,
    /// What lies under it and around it; nothing lets through what lies below. Its own colour is the fill of its look.
    pub ground: Option<Tint>,
    /// A picture in its middle.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    #[ts(optional)]
    pub mark: Option<AssetId>,
}

impl Code {
    /// Most bytes a code holds where it is to be corrected at least a little.
    pub const MOST: usize = 1_200;

    /// Why it cannot be kept, if so.
    #[must_use]
    pub fn fault(&self) -> Option<Fault> {
        (self.says.written().len() > Self::MOST).then_some(Fault::CodeLength)
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn codes_say_what_devices_read() {
        let address = |text: &str| CodeWords::Address { address: text.into() }.written();
        assert_eq!(address(" mossback.example/classes "), "https://mossback.example/classes");
        assert_eq!(address("http://mossback.example"), "http://mossback.example");
        assert_eq!(address("mailto:hello@mossback.example"), "mailto:hello@mossback.example");
        let card = CodeWords::Contact {
            name: "Ines Vardal".into(),
            firm: "Mossback Kiln; pots, bowls".into(),
            phone: "555 0142".into(),
            mail: String::new(),
            web: " mossback.example ".into(),
        };
        assert_eq!(
            card.written(),
            "BEGIN:VCARD\nVERSION:3.0\nN:Vardal;Ines\nFN:Ines Vardal\nORG:Mossback Kiln\\; pots\\, bowls\nTEL:555 0142\nURL:mossback.example\nEND:VCARD"
        );
        assert_eq!(card.said(), "Ines Vardal");
        let network =
            |password: &str| CodeWords::Network { name: "Kiln;guests".into(), password: password.into() }.written();
        assert_eq!(network("made:slow"), "WIFI:T:WPA;S:Kiln\\;guests;P:made\\:slow;;");
        assert_eq!(network(""), "WIFI:T:nopass;S:Kiln\\;guests;;");
        assert!(CodeWords::Plain { text: " ".into() }.is_blank() && !card.is_blank());
        assert_eq!(
            Code { says: CodeWords::Plain { text: "x".repeat(1_201) }, ground: None, mark: None }.fault(),
            Some(Fault::CodeLength)
        );
    }
}
