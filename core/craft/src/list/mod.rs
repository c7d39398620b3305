//! From a list: many pieces made from one and the rows of a table.

pub(crate) mod fields;
pub(crate) mod records;
pub(crate) mod table;

pub use fields::{Filling, Fills, ListColumn, ListField, guess, list_columns, list_fields};
pub use records::{BadRow, Filled, fill_rows, spilling};
pub use table::{Row, Table, TableError};
