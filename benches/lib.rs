//! Benchmarks of Motilis, each beside the figure it publishes in `docs/architecture.md`: `cargo bench --package
//! motilis-benches`. A package of their own, so that `./test` builds nothing that only they need.
