use crate::guard::{self, Bodies, Hosts};
use crate::{App, error, router};
use actix_web::middleware::{Compress, from_fn};
use actix_web::web::Data;
use actix_web::{App as ActixApp, HttpServer};
use rustls::ServerConfig;
use std::io;
use std::net::{SocketAddr, TcpListener, ToSocketAddrs};
use std::time::Duration;

/// Connections that are open at once on each of the two threads that answer.
const CONNECTIONS: usize = 256;
/// How long a request's head may be on its way.
const HEAD: Duration = Duration::from_secs(5);
/// How long those who are being answered have when the program ends, s.
const LAST_ORDERS: u64 = 1;

/// An address that is taken; nobody is answered there yet.
#[derive(Debug)]
pub struct Bound(Vec<TcpListener>);

impl Bound {
    /// Takes an address, before anything else is done.
    ///
    /// # Errors
    /// When it is in use or not this machine's.
    pub fn to(address: impl ToSocketAddrs) -> io::Result<Self> {
        let mut listeners = Vec::new();
        let mut last = None;
        for one in address.to_socket_addrs()? {
            match TcpListener::bind(one) {
                Ok(listener) => listeners.push(listener),
                Err(error) => last = Some(error),
            }
        }
        match last {
            Some(error) if listeners.is_empty() => Err(error),
            _ if listeners.is_empty() => Err(io::ErrorKind::AddrNotAvailable.into()),
            _ => Ok(Self(listeners)),
        }
    }

    /// Where it listens.
    pub fn addresses(&self) -> Vec<SocketAddr> {
        let all = self.0.iter().filter_map(|one| one.local_addr().ok());
        all.collect()
    }

    /// Whether only this machine reaches it.
    pub fn is_loopback(&self) -> bool {
        self.addresses().iter().all(|one| one.ip().is_loopback())
    }
}

/// A server that is bound to its address but does not answer yet.
pub struct Server(actix_web::dev::Server);

impl Server {
    /// Answers requests until it is told to stop.
    ///
    /// # Errors
    /// When the operating system takes the address away.
    pub async fn run(self) -> io::Result<()> {
        self.0.await
    }

    /// What stops it: those who are being answered have a second.
    pub fn handle(&self) -> actix_web::dev::ServerHandle {
        self.0.handle()
    }
}

/// Puts the application behind an address.
///
/// # Errors
/// When the operating system takes the address away.
pub fn serve(
    app: App,
    hosts: Hosts,
    bound: Bound,
    tls: Option<&ServerConfig>,
) -> io::Result<Server> {
    let app = Data::new(app);
    let hosts = Data::new(hosts);
    let bodies = Data::new(Bodies::default());
    let mut server = HttpServer::new(move || {
        ActixApp::new()
            .app_data(app.clone())
            .app_data(hosts.clone())
            .app_data(bodies.clone())
            // The last one wrapped sees a request first.
            .wrap(from_fn(guard::bodies))
            .wrap(from_fn(guard::aboard))
            .wrap(from_fn(guard::strangers))
            .wrap(from_fn(error::pages))
            .wrap(from_fn(guard::headers))
            .wrap(Compress::default())
            .wrap(from_fn(guard::heads))
            .wrap(from_fn(guard::told))
            .configure(router::configure)
    })
    .workers(2)
    .max_connections(CONNECTIONS)
    .client_request_timeout(HEAD)
    .shutdown_timeout(LAST_ORDERS)
    // Who starts it says what ends it.
    .disable_signals();
    for listener in bound.0 {
        server = match tls {
            Some(tls) => server.listen_rustls_0_23(listener, tls.clone())?,
            None => server.listen(listener)?,
        };
    }
    Ok(Server(server.run()))
}
