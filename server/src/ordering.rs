//! Orders at a print shop: the file is made, looked at by the shop as it is, and kept with the job as it was.

use std::sync::Arc;

use serde::{Deserialize, Serialize};
use vatman_craft::{FileKind, HandOver, Studio, write_file};
use vatman_document::{JobId, Piece, PieceId, write_job};

use crate::asking::find_piece;
use crate::clock::now;
use crate::ids::Ids;
use crate::jobs::Jobs;
use crate::print_shop::{Expected, OrderState, OrderWish, PrintShop};
use crate::problem::Problem;
use crate::store::{OrderRow, Printed, Store};
use crate::types::{OrderCard, QuoteCard, ShopCard};

/// What is kept of an order as JSON.
#[derive(Debug, Clone, Serialize, Deserialize)]
struct Said {
    wish: OrderWish,
    price: u64,
    reasons: Vec<String>,
}

/// Orders pieces.
pub struct Ordering {
    store: Arc<Store>,
    jobs: Arc<Jobs>,
    studio: Arc<Studio>,
    shop: Box<dyn PrintShop>,
}

fn expected(piece: &Piece) -> Expected {
    Expected { size: piece.format.size, sides: piece.sides.len() }
}

impl Ordering {
    /// At a shop.
    #[must_use]
    pub fn new(store: Arc<Store>, jobs: Arc<Jobs>, studio: Arc<Studio>, shop: Box<dyn PrintShop>) -> Self {
        Self { store, jobs, studio, shop }
    }

    /// What the shop prints on.
    #[must_use]
    pub fn shop(&self) -> ShopCard {
        ShopCard {
            name: self.shop.name().to_owned(),
            papers: self.shop.papers().to_vec(),
            count: crate::print_shop::FIRST_COUNT,
        }
    }

    /// What so many of a piece cost.
    ///
    /// # Errors
    /// A problem where the piece is not there or the shop does not print it so.
    pub fn quote(&self, id: &JobId, piece: &PieceId, wish: &OrderWish) -> Result<QuoteCard, Problem> {
        let job = self.jobs.load(id)?.job;
        let expected = expected(find_piece(&job, piece)?);
        let none = || Problem::value("The shop prints 10 to 10,000 of a piece, on the papers it has.");
        let price = self.shop.quote(wish, expected).ok_or_else(none)?;
        let size = crate::print_shop::size_label(expected.size);
        let sides = if expected.sides == 1 { "1 side".to_owned() } else { format!("{} sides", expected.sides) };
        Ok(QuoteCard { price, says: format!("{} of {size}, {sides}", wish.count) })
    }

    /// Orders a piece. The shop looks at the file; one it sends back is kept with its reasons, too.
    ///
    /// # Errors
    /// A problem where the file cannot be made or the order cannot be kept.
    pub fn order(&self, id: &JobId, piece: &PieceId, wish: OrderWish) -> Result<OrderCard, Problem> {
        let price = self.quote(id, piece, &wish)?.price;
        let held = self.jobs.load(id)?;
        let own = find_piece(&held.job, piece)?;
        let how = HandOver { bleed: true, process: true, ..HandOver::of(FileKind::Pdf) };
        let mut files = write_file(&self.studio, &held.job, own, &[], how)?;
        let Some(file) = files.pop() else { return Err(Problem::value("There is nothing to print.")) };
        let reasons = self.shop.look_at(&file.bytes, expected(own));
        let said = Said { wish, price, reasons };
        let row = OrderRow {
            id: JobId::fresh(&mut Ids).to_string(),
            piece: own.name.clone(),
            revision: held.revision,
            said: serde_json::to_string(&said).map_err(|error| Problem::internal(&error))?,
            placed_at: now(),
        };
        self.store.keep_order(id, &row, &Printed { document: &write_job(&held.job), pdf: &file.bytes })?;
        Ok(self.card(row, said))
    }

    /// The orders of a job, newest first.
    ///
    /// # Errors
    /// A problem where the file fails.
    pub fn orders(&self, id: &JobId) -> Result<Vec<OrderCard>, Problem> {
        let rows = self.store.orders(id)?.into_iter();
        Ok(rows.filter_map(|row| serde_json::from_str(&row.said).ok().map(|said| self.card(row, said))).collect())
    }

    /// The file that was sent with an order.
    ///
    /// # Errors
    /// A problem where there is no such order.
    pub fn file(&self, order: &str) -> Result<Vec<u8>, Problem> {
        self.store.ordered_file(order)?.ok_or_else(|| Problem::not_found("There is no such order."))
    }

    fn card(&self, row: OrderRow, said: Said) -> OrderCard {
        let state =
            if said.reasons.is_empty() { self.shop.state_after(now() - row.placed_at) } else { OrderState::Rejected };
        let paper = self.shop.papers().iter().find(|paper| paper.id == said.wish.paper);
        OrderCard {
            id: row.id,
            piece: row.piece,
            revision: row.revision,
            at: row.placed_at,
            paper: paper.map_or_else(|| said.wish.paper.clone(), |paper| paper.name.to_owned()),
            count: said.wish.count,
            price: said.price,
            state,
            reasons: said.reasons,
        }
    }
}
