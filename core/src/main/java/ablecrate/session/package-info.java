/// Recording sessions: our open document of one, and where its bars lie.
package ablecrate.session;
