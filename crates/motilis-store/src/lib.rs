//! motilis-store
