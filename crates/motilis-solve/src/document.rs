use utoipa::OpenApi;

/// The JSON interface of Motilis.
#[derive(OpenApi)]
#[openapi(
    info(
        title = "Motilis",
        description = "The computations of Motilis. All figures are SI; each field name ends in its unit. Unknown fields are refused by name.",
        license(name = "MIT OR Apache-2.0"),
    ),
    paths(crate::towline::solve, crate::blade::solve, crate::rig::solve, crate::sun::solve, crate::light::solve, crate::advice::solve, crate::spread::solve, crate::rate::solve, crate::fish::solve, crate::river::solve),
    tags((name = "solve", description = "One computation, no data file needed")),
)]
struct Document;

/// The `OpenAPI` document of the JSON interface, as JSON.
pub fn openapi() -> String {
    Document::openapi()
        .to_json()
        .expect("the document is made of texts")
}
