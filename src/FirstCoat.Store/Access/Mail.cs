using MimeKit;

namespace FirstCoat.Store.Access;

/// <summary>A letter to a client.</summary>
public sealed record Letter(string To, string Name, string Subject, string Text);

/// <summary>Sends letters.</summary>
public interface IMail
{
    /// <summary>Hands a letter over.</summary>
    Task Send(Letter letter, string from, CancellationToken cancel);
}

/// <summary>Stands in for a mail server: each letter becomes a file (RFC 5322, .eml) in a folder that any mail program opens.</summary>
public sealed class MailFolder(string folder, ShopClock clock) : IMail
{
    public async Task Send(Letter letter, string from, CancellationToken cancel)
    {
        Directory.CreateDirectory(folder);
        using var message = new MimeMessage { Subject = letter.Subject, Body = new TextPart("plain") { Text = letter.Text }, Date = clock.Now.ToDateTimeOffset() };
        message.From.Add(new MailboxAddress(from, "shop@localhost"));
        message.To.Add(new MailboxAddress(letter.Name, letter.To));
        await message.WriteToAsync(Path.Combine(folder, $"{clock.Now.ToUnixTimeMilliseconds()}-{Guid.NewGuid():N}.eml"), cancel);
    }
}
