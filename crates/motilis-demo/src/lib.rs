//! motilis-demo
