//! tackle
