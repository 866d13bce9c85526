//! laws
