using FirstCoat.Core;
using MimeKit;

namespace FirstCoat.Store.Access;

/// <summary>A letter to a client.</summary>
public sealed record Letter(string To, string Name, string Subject, string Text);

/// <summary>Sends letters.</summary>
public interface IMail
{
    /// <summary>Hands a letter over.</summary>
    /// <exception cref="Refusal">No letter can be made of this; names the field.</exception>
    Task Send(Letter letter, string from, CancellationToken cancel);
}

/// <summary>Stands in for a mail server: each letter becomes a file (RFC 5322, .eml) in a folder that any mail program
/// opens. Only the shop's account reads them.</summary>
public sealed class MailFolder(string folder, ShopClock clock) : IMail
{
    public async Task Send(Letter letter, string from, CancellationToken cancel)
    {
        PrivateFolder.Make(folder);
        using var message = Make(letter, from);
        var path = Path.Combine(folder, $"{clock.Now.ToUnixTimeMilliseconds()}-{Guid.NewGuid():N}.eml");
        var half = path + ".half";
        await using (var file = PrivateFolder.NewFile(half))
        {
            await message.WriteToAsync(file, cancel);
            file.Flush(flushToDisk: true);
        }

        File.Move(half, path);
    }

    private MimeMessage Make(Letter letter, string from)
    {
        try
        {
            var message = new MimeMessage
            {
                Subject = letter.Subject,
                Body = new TextPart("plain") { Text = letter.Text },
                Date = clock.Now.ToDateTimeOffset(),
            };
            message.From.Add(new MailboxAddress(from, "shop@localhost"));
            message.To.Add(new MailboxAddress(letter.Name, letter.To));
            return message;
        }
        catch (Exception e) when (e is ParseException or ArgumentException)
        {
            throw new Refusal(
                "clientEmail",
                "No letter can be addressed to this client's e-mail address: correct it first."
            );
        }
    }
}
