//! motilis-web
