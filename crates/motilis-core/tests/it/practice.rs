//! practice
