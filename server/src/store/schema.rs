//! The tables of the data file.

diesel::table! {
    jobs (id) {
        id -> Text,
        title -> Text,
        revision -> BigInt,
        form -> BigInt,
        heading -> Text,
        sheets -> Text,
        created_at -> BigInt,
        changed_at -> BigInt,
        removed_at -> Nullable<BigInt>,
    }
}

diesel::table! {
    parts (job_id, kind, id) {
        job_id -> Text,
        kind -> Text,
        id -> Text,
        document -> Text,
    }
}

diesel::table! {
    states (job_id, revision) {
        job_id -> Text,
        revision -> BigInt,
        kept_at -> BigInt,
        document -> Text,
    }
}

diesel::table! {
    steps (job_id, number) {
        job_id -> Text,
        number -> BigInt,
        gesture -> Nullable<Text>,
        forward -> Nullable<Text>,
        inverse -> Text,
        undone -> Bool,
        made_at -> BigInt,
    }
}

diesel::table! {
    fonts (id) {
        id -> Text,
        family -> Text,
        weight -> Integer,
        italic -> Bool,
        bytes -> Binary,
        added_at -> BigInt,
    }
}

diesel::table! {
    pictures (id) {
        id -> Text,
        name -> Text,
        media_type -> Text,
        width -> Integer,
        height -> Integer,
        bytes -> Binary,
        sample -> Bool,
        added_at -> BigInt,
        orientation -> Integer,
        profiled -> Bool,
        shelved -> Bool,
    }
}

diesel::table! {
    kept (kind, name) {
        kind -> Text,
        name -> Text,
        document -> Text,
        kept_at -> BigInt,
    }
}

diesel::table! {
    handed (job_id, piece_id) {
        job_id -> Text,
        piece_id -> Text,
        looked -> Text,
        files -> Text,
        handed_at -> BigInt,
    }
}

diesel::table! {
    orders (id) {
        id -> Text,
        job_id -> Text,
        piece -> Text,
        revision -> BigInt,
        document -> Text,
        pdf -> Binary,
        said -> Text,
        placed_at -> BigInt,
    }
}

diesel::joinable!(parts -> jobs (job_id));
diesel::allow_tables_to_appear_in_same_query!(jobs, parts);
