//! line
