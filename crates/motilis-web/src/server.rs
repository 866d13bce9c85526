use crate::guard::{self, Hosts};
use crate::{App, error, router};
use actix_web::middleware::{Compress, from_fn};
use actix_web::web::Data;
use actix_web::{App as ActixApp, HttpServer};
use rustls::ServerConfig;
use std::io;
use std::net::{SocketAddr, ToSocketAddrs};

/// A server that is bound to its address but does not answer yet.
pub struct Server {
    server: actix_web::dev::Server,
    addresses: Vec<SocketAddr>,
}

impl Server {
    /// Where it listens.
    pub fn addresses(&self) -> &[SocketAddr] {
        &self.addresses
    }

    /// Answers requests until it is told to stop.
    ///
    /// # Errors
    /// When the operating system takes the address away.
    pub async fn run(self) -> io::Result<()> {
        self.server.await
    }
}

/// Binds the application to an address.
///
/// # Errors
/// When the address is in use or not this machine's.
pub fn bind(
    app: App,
    hosts: Hosts,
    address: impl ToSocketAddrs,
    tls: Option<ServerConfig>,
) -> io::Result<Server> {
    let app = Data::new(app);
    let hosts = Data::new(hosts);
    let unbound = HttpServer::new(move || {
        ActixApp::new()
            .app_data(app.clone())
            .app_data(hosts.clone())
            // The last one wrapped sees a request first.
            .wrap(from_fn(guard::strangers))
            .wrap(from_fn(error::pages))
            .wrap(from_fn(guard::headers))
            .wrap(Compress::default())
            .wrap(tracing_actix_web::TracingLogger::default())
            .configure(router::configure)
    })
    .workers(2);
    let server = match tls {
        Some(tls) => unbound.bind_rustls_0_23(address, tls)?,
        None => unbound.bind(address)?,
    };
    let addresses = server.addrs();
    Ok(Server {
        server: server.run(),
        addresses,
    })
}
