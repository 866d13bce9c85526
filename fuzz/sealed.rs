/// The same bytes with a right checksum behind every line that begins as a sentence: a fuzzer hardly guesses one.
pub fn sealed(bytes: &[u8]) -> Vec<u8> {
    let mut all = Vec::with_capacity(bytes.len() + 16);
    for line in bytes.split(|byte| matches!(byte, b'\n' | b'\r')) {
        let body = line.split(|&byte| byte == b'*').next().unwrap_or(line);
        all.extend_from_slice(body);
        if let Some(inside) = body.strip_prefix(b"$") {
            let sum = inside.iter().fold(0, |sum, byte| sum ^ byte);
            all.extend_from_slice(format!("*{sum:02X}").as_bytes());
        }
        all.extend_from_slice(b"\r\n");
    }
    all
}
