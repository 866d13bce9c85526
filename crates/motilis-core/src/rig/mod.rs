//! rig
