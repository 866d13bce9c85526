//! The application over HTTP, as it is served: pages, changes, refusals, guards.

mod abuse;
mod bench;
mod boat;
mod boxes;
mod crawl;
mod guards;
mod iron;
mod json;
mod learned;
mod long;
mod pages;
mod pictures;
mod river;
mod server;
mod spread;
mod standing;
mod start;
mod today;
mod units;
mod waters;
