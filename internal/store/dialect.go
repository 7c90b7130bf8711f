package store

import (
	"database/sql"
	"errors"
	"fmt"
	"strings"

	"gorm.io/gorm"
	"gorm.io/gorm/callbacks"
	"gorm.io/gorm/clause"
	"gorm.io/gorm/logger"
	"gorm.io/gorm/migrator"
	"gorm.io/gorm/schema"
	sqlitedriver "modernc.org/sqlite"
	sqlite3 "modernc.org/sqlite/lib"
)

// dialect is GORM's SQLite over the pure Go driver. GORM's own dialector would link a
// driver in C beside it. Tables are made by the migrations' SQL; of GORM's migrator only
// what keeps the list of migrations is used.
type dialect struct{ dsn string }

func (dialect) Name() string { return "sqlite" }

// Initialize opens the database.
func (d dialect) Initialize(db *gorm.DB) error {
	pool, err := sql.Open("sqlite", d.dsn)
	if err != nil {
		return err
	}
	db.ConnPool = pool
	callbacks.RegisterDefaultCallbacks(db, &callbacks.Config{
		CreateClauses:        []string{"INSERT", "VALUES", "ON CONFLICT", "RETURNING"},
		UpdateClauses:        []string{"UPDATE", "SET", "FROM", "WHERE", "RETURNING"},
		DeleteClauses:        []string{"DELETE", "FROM", "WHERE", "RETURNING"},
		LastInsertIDReversed: true,
	})
	return pool.Ping()
}

// Migrator is GORM's with SQLite's list of tables.
func (d dialect) Migrator(db *gorm.DB) gorm.Migrator {
	return tables{migrator.Migrator{Config: migrator.Config{DB: db, Dialector: d}}}
}

type tables struct{ migrator.Migrator }

// HasTable says whether a table of that name, or of a model, is there.
func (t tables) HasTable(value any) bool {
	var n int64
	err := t.RunWithValue(value, func(stmt *gorm.Statement) error {
		return t.DB.Raw("SELECT count(*) FROM sqlite_master WHERE type = 'table' AND name = ?", stmt.Table).Row().Scan(&n)
	})
	return err == nil && n > 0
}

// DataTypeOf is the type of a column in SQLite.
func (dialect) DataTypeOf(f *schema.Field) string {
	switch f.DataType {
	case schema.Bool:
		return "numeric"
	case schema.Int, schema.Uint:
		return "integer"
	case schema.Float:
		return "real"
	case schema.Time:
		return "datetime"
	case schema.Bytes:
		return "blob"
	}
	return "text"
}

// DefaultValueOf lets SQLite number a row, or use the column's default.
func (dialect) DefaultValueOf(f *schema.Field) clause.Expression {
	if f.AutoIncrement {
		return clause.Expr{SQL: "NULL"}
	}
	return clause.Expr{SQL: "DEFAULT"}
}

func (dialect) BindVarTo(w clause.Writer, _ *gorm.Statement, _ any) { _ = w.WriteByte('?') }

// QuoteTo quotes a name; a dot parts the table from the column.
func (dialect) QuoteTo(w clause.Writer, name string) {
	_, _ = w.WriteString("`" + strings.ReplaceAll(strings.ReplaceAll(name, "`", "``"), ".", "`.`") + "`")
}

func (dialect) Explain(query string, vars ...any) string {
	return logger.ExplainSQL(query, nil, `"`, vars...)
}

// primary leaves of an extended code of SQLite what it is an extension of.
const primary = 0xff

// Translate maps unique and foreign key errors to GORM's, a closed car, a lock and a full
// disk to the store's.
func (dialect) Translate(err error) error {
	var e *sqlitedriver.Error
	if errors.As(err, &e) {
		switch e.Code() {
		case sqlite3.SQLITE_CONSTRAINT_UNIQUE, sqlite3.SQLITE_CONSTRAINT_PRIMARYKEY:
			return gorm.ErrDuplicatedKey
		case sqlite3.SQLITE_CONSTRAINT_FOREIGNKEY:
			return gorm.ErrForeignKeyViolated
		case sqlite3.SQLITE_CONSTRAINT_TRIGGER:
			return ErrClosed // no other trigger refuses
		}
		switch e.Code() & primary {
		case sqlite3.SQLITE_BUSY, sqlite3.SQLITE_LOCKED:
			return fmt.Errorf("%w by another program", ErrBusy)
		case sqlite3.SQLITE_FULL:
			return fmt.Errorf("%w: %w", ErrFull, err)
		}
	}
	return err
}
