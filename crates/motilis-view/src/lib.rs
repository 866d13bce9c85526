//! motilis-view
