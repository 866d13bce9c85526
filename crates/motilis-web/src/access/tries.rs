use jiff::Timestamp;
use std::collections::HashMap;
use std::net::IpAddr;

/// Wrong tries that cost nothing.
const FREE: u32 = 5;
/// What the next one costs, s, and what it never costs more than; it doubles with each.
const FIRST_S: u64 = 30;
const MOST_S: u64 = 900;
/// Addresses that are remembered, and for how long, s.
const ADDRESSES: usize = 1_000;
const REMEMBERED_S: i64 = 3_600;

/// Wrong tries by the address they came from.
#[derive(Debug, Default)]
pub(super) struct Tries(HashMap<IpAddr, (u32, i64)>);

/// A household has one network of the newer addresses: all of it counts as one.
fn whose(peer: IpAddr) -> IpAddr {
    match peer {
        IpAddr::V6(six) => match six.to_ipv4_mapped() {
            Some(four) => four.into(),
            None => (std::net::Ipv6Addr::from_bits(six.to_bits() >> 64 << 64)).into(),
        },
        four @ IpAddr::V4(_) => four,
    }
}

impl Tries {
    /// Seconds until another try is looked at; none when it is at once.
    pub fn wait(&self, peer: IpAddr, now: Timestamp) -> Option<u64> {
        let (wrong, last) = self.0.get(&whose(peer))?;
        let over = wrong.checked_sub(FREE)?;
        let cost = FIRST_S
            .checked_shl(over.min(10))
            .unwrap_or(MOST_S)
            .min(MOST_S);
        let left = last + cost as i64 - now.as_second();
        (left > 0).then_some(left.unsigned_abs())
    }

    /// Counts a wrong one.
    pub fn failed(&mut self, peer: IpAddr, now: Timestamp) {
        let second = now.as_second();
        if self.0.len() >= ADDRESSES {
            self.0.retain(|_, (_, last)| second - *last < REMEMBERED_S);
        }
        if self.0.len() >= ADDRESSES
            && let Some(oldest) = self
                .0
                .iter()
                .min_by_key(|(_, (_, last))| *last)
                .map(|(of, _)| *of)
        {
            self.0.remove(&oldest);
        }
        let (wrong, last) = self.0.entry(whose(peer)).or_default();
        if second - *last > REMEMBERED_S {
            *wrong = 0;
        }
        (*wrong, *last) = (*wrong + 1, second);
    }

    /// A right one wipes the slate.
    pub fn forget(&mut self, peer: IpAddr) {
        self.0.remove(&whose(peer));
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use jiff::SignedDuration;

    fn at(seconds: i64) -> Timestamp {
        Timestamp::UNIX_EPOCH + SignedDuration::from_secs(1_000_000 + seconds)
    }

    #[test]
    fn each_wrong_try_costs_twice_the_last_and_never_more_than_a_quarter_of_an_hour() {
        let mut tries = Tries::default();
        let peer: IpAddr = "10.0.0.7".parse().unwrap();
        let waits: Vec<Option<u64>> = (0..14)
            .map(|_| {
                tries.failed(peer, at(0));
                tries.wait(peer, at(0))
            })
            .collect();
        assert_eq!(waits[..4], [None; 4]);
        let costs: Vec<u64> = waits[4..].iter().map(|wait| wait.unwrap()).collect();
        assert_eq!(costs, [30, 60, 120, 240, 480, 900, 900, 900, 900, 900]);
        assert_eq!(tries.wait(peer, at(900)), None);
        assert_eq!(tries.wait("10.0.0.8".parse().unwrap(), at(0)), None);
        // An hour later it begins anew.
        tries.failed(peer, at(5_000));
        assert_eq!(tries.wait(peer, at(5_000)), None);
    }

    #[test]
    fn a_network_counts_as_one_and_addresses_do_not_heap_up() {
        let mut tries = Tries::default();
        for n in 0..6 {
            tries.failed(format!("2001:db8:1:2::{n}").parse().unwrap(), at(0));
        }
        assert!(
            tries
                .wait("2001:db8:1:2::ffff".parse().unwrap(), at(0))
                .is_some()
        );
        assert_eq!(tries.wait("2001:db8:1:3::1".parse().unwrap(), at(0)), None);
        for n in 0..5_000_u32 {
            tries.failed(
                std::net::Ipv4Addr::from_bits(n).into(),
                at(i64::from(n) / 100),
            );
        }
        assert!(tries.0.len() <= ADDRESSES);
    }
}
