//! motilis-solve
