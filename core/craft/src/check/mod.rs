//! Checking: whether words read on what lies behind them, and what should be looked at before a piece leaves.

pub(crate) mod contrast;
pub(crate) mod dates;
pub(crate) mod findings;
pub(crate) mod heavy;
pub(crate) mod order;
pub(crate) mod printed;
pub(crate) mod proof;
pub(crate) mod repairs;
pub(crate) mod seen;
pub(crate) mod spelling;
pub(crate) mod wording;

pub use contrast::{ContrastError, Ground, Reading, Repair, Verdict};
pub use dates::Day;
pub use findings::{Finding, FindingKind, ItemFinding, findings, item_findings};
pub use heavy::too_heavy;
pub(crate) use printed::thinnest_line;
pub use proof::{ProofCard, ProofColour, ProofPicture, proof_card, soft_proof};
pub use repairs::{Checked, check_job, repair, weighed};
pub(crate) use seen::shown_pixels;
pub use spelling::{Speller, WordList, WordLists, archived_text};
pub use wording::Reader;
