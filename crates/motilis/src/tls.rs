//! The program's own certificate, or one that is given, for https.

use anyhow::{Context, Result, bail};
use rcgen::{CertificateParams, DistinguishedName, DnType, KeyPair};
use rustls::ServerConfig;
use rustls::pki_types::pem::PemObject;
use rustls::pki_types::{CertificateDer, PrivateKeyDer};
use sha2::{Digest, Sha256};
use std::fs;
use std::net::{IpAddr, SocketAddr, UdpSocket};
use std::path::{Path, PathBuf};

/// How this machine is reached by others on its network: asked of the routes it has, without sending anything.
pub(crate) fn own_address() -> Option<IpAddr> {
    let socket = UdpSocket::bind(("0.0.0.0", 0)).ok()?;
    // A documentation address (RFC 5737): nothing is sent to it.
    socket.connect(("192.0.2.1", 9)).ok()?;
    let address = socket.local_addr().ok()?.ip();
    (!address.is_loopback() && !address.is_unspecified()).then_some(address)
}

/// The addresses at which others open it.
pub(crate) fn reached_at(bound: &[SocketAddr], secure: bool) -> Vec<String> {
    let scheme = if secure { "https" } else { "http" };
    let mut all: Vec<String> = Vec::new();
    for address in bound {
        let ip = if address.ip().is_unspecified() {
            own_address()
        } else {
            Some(address.ip())
        };
        if let Some(ip) = ip.filter(|ip| !ip.is_loopback()) {
            all.push(format!(
                "{scheme}://{}",
                SocketAddr::new(ip, address.port())
            ));
        }
    }
    all
}

/// How https is spoken, and what tells this certificate from any other.
pub(crate) struct Tls {
    pub config: ServerConfig,
    /// SHA-256 of the certificate, as browsers show it.
    pub fingerprint: String,
}

/// Reads a certificate and its key, or makes them beside the data file, where they stay.
pub(crate) fn config(
    data: &Path,
    given: Option<&(PathBuf, PathBuf)>,
    names: &[String],
) -> Result<Tls> {
    let (certificate, key) = match given {
        Some((certificate, key)) => (certificate.clone(), key.clone()),
        None => made(data, names)?,
    };
    let read =
        |path: &Path| fs::read(path).with_context(|| format!("{} cannot be read", path.display()));
    let chain: Vec<CertificateDer<'static>> = CertificateDer::pem_slice_iter(&read(&certificate)?)
        .collect::<Result<_, _>>()
        .with_context(|| format!("{} is no certificate in PEM", certificate.display()))?;
    if chain.is_empty() {
        bail!("{} holds no certificate in PEM", certificate.display());
    }
    let key_read = PrivateKeyDer::from_pem_slice(&read(&key)?)
        .with_context(|| format!("{} is no private key in PEM", key.display()))?;
    let fingerprint = fingerprint(&chain[0]);
    let provider = std::sync::Arc::new(rustls::crypto::ring::default_provider());
    let config = ServerConfig::builder_with_provider(provider)
        .with_safe_default_protocol_versions()?
        .with_no_client_auth()
        .with_single_cert(chain, key_read)
        .context("certificate and key do not go together")?;
    Ok(Tls {
        config,
        fingerprint,
    })
}

fn fingerprint(certificate: &CertificateDer<'_>) -> String {
    let pairs = Sha256::digest(certificate);
    let pairs: Vec<String> = pairs.iter().map(|byte| format!("{byte:02X}")).collect();
    pairs.join(":")
}

/// A certificate of our own: made once, for the names and addresses this machine has then.
fn made(data: &Path, names: &[String]) -> Result<(PathBuf, PathBuf)> {
    let (certificate, key) = (
        data.with_extension("cert.pem"),
        data.with_extension("key.pem"),
    );
    if certificate.exists() && key.exists() {
        return Ok((certificate, key));
    }
    let mut known = vec!["localhost".to_owned(), "127.0.0.1".to_owned()];
    known.extend(own_address().map(|ip| ip.to_string()));
    known.extend(names.iter().cloned());
    let mut parameters = CertificateParams::new(known)?;
    let mut name = DistinguishedName::new();
    name.push(DnType::CommonName, "Motilis, own certificate");
    parameters.distinguished_name = name;
    let pair = KeyPair::generate()?;
    let signed = parameters.self_signed(&pair)?;
    write_private(&key, &pair.serialize_pem())?;
    fs::write(&certificate, signed.pem())
        .with_context(|| format!("{} cannot be written", certificate.display()))?;
    Ok((certificate, key))
}

/// A key is nobody else's to read.
fn write_private(path: &Path, text: &str) -> Result<()> {
    use std::io::Write;
    let mut open = fs::OpenOptions::new();
    open.write(true).create(true).truncate(true);
    #[cfg(unix)]
    std::os::unix::fs::OpenOptionsExt::mode(&mut open, 0o600);
    let mut file = open
        .open(path)
        .with_context(|| format!("{} cannot be written", path.display()))?;
    file.write_all(text.as_bytes())?;
    Ok(())
}
