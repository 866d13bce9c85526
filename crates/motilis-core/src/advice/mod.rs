//! advice
